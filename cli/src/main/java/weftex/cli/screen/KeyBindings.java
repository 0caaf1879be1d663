package weftex.cli.screen;

import org.jline.keymap.KeyMap;
import org.jline.terminal.Terminal;
import org.jline.utils.InfoCmp.Capability;

/** What terminals send for the keys. */
final class KeyBindings {
  /** A lone escape is told from the beginning of a longer key by what follows within this time. */
  private static final int MILLISECONDS = 80;

  private static final int DELETE = 127;

  private KeyBindings() {}

  static KeyMap<Keys> of(Terminal terminal) {
    KeyMap<Keys> map = new KeyMap<>();
    map.setUnicode(Keys.NONE);
    map.setNomatch(Keys.NONE);
    map.setAmbiguousTimeout(MILLISECONDS);
    for (Keys key : Keys.values()) {
      if (key.key().length() == 1 && key.key().charAt(0) < DELETE) {
        map.bind(key, key.key());
      }
    }
    bind(map, terminal, Keys.UP, Capability.key_up, "\u001b[A", "\u001bOA");
    bind(map, terminal, Keys.DOWN, Capability.key_down, "\u001b[B", "\u001bOB");
    bind(map, terminal, Keys.INTO, Capability.key_right, "\u001b[C", "\u001bOC", "\r");
    bind(map, terminal, Keys.BACK, Capability.key_left, "\u001b[D", "\u001bOD", "\u001b");
    bind(map, terminal, Keys.PAGE_UP, Capability.key_ppage, "\u001b[5~");
    bind(map, terminal, Keys.PAGE_DOWN, Capability.key_npage, "\u001b[6~", " ");
    bind(map, terminal, Keys.FIRST, Capability.key_home, "\u001b[H", "\u001b[1~");
    bind(map, terminal, Keys.LAST, Capability.key_end, "\u001b[F", "\u001b[4~");
    map.bind(Keys.SWITCH, "\t");
    return map;
  }

  private static void bind(
      KeyMap<Keys> map, Terminal terminal, Keys key, Capability capability, String... others) {
    String own = KeyMap.key(terminal, capability);
    if (own != null) {
      map.bind(key, own);
    }
    map.bind(key, others);
  }
}
