package weftex.demo;

import java.awt.Color;

/** What is to be seen. */
record DemoScene(Color sky, Color sea, boolean ship, boolean snow, int waves) {
  static final DemoScene CALM =
      new DemoScene(new Color(0xBFD9E6), new Color(0x2F6B8A), false, false, 2);
  static final DemoScene SHIP =
      new DemoScene(new Color(0xF2D9B8), new Color(0x33608A), true, false, 3);
  static final DemoScene EVENING =
      new DemoScene(new Color(0x6A5A86), new Color(0x2A3558), false, false, 2);
  static final DemoScene WINTER =
      new DemoScene(new Color(0xDDE4EA), new Color(0x56707F), true, true, 4);
  static final DemoScene STORM =
      new DemoScene(new Color(0x7B8790), new Color(0x37474F), false, false, 12);
  static final DemoScene RAMP =
      new DemoScene(new Color(0xCFE3D4), new Color(0x3E7A6E), false, false, 1);
  static final DemoScene NEW_RAMP =
      new DemoScene(new Color(0xE9E2C3), new Color(0x3E7A6E), true, false, 1);
}
