package weftex.demo;

import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.Polygon;
import java.awt.RenderingHints;
import java.awt.geom.Path2D;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.Random;
import javax.imageio.ImageIO;

/** Small pictures of the made-up site, drawn for it: sea, sky, hills, a ship. */
final class DemoPictures {
  private static final int WIDTH = 320;
  private static final int HEIGHT = 180;
  private static final int SEA = 118;

  static {
    System.setProperty("java.awt.headless", "true");
    ImageIO.setUseCache(false);
  }

  private final Path folder;

  /**
   * @param folder a copy's
   */
  DemoPictures(Path folder) {
    this.folder = folder.resolve("media");
  }

  /** Draws one, as if it were some days old. */
  void draw(String name, DemoScene scene, Instant when) throws IOException {
    BufferedImage image = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_RGB);
    Graphics2D graphics = image.createGraphics();
    graphics.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
    graphics.setColor(scene.sky());
    graphics.fillRect(0, 0, WIDTH, SEA);
    graphics.setColor(scene.sky().darker());
    graphics.fill(hills(name));
    graphics.setColor(scene.sea());
    graphics.fillRect(0, SEA, WIDTH, HEIGHT - SEA);
    graphics.setColor(new Color(255, 255, 255, 90));
    Random random = new Random(name.hashCode());
    for (int i = 0; i < scene.waves() * 6; i++) {
      int x = random.nextInt(WIDTH);
      int y = SEA + 6 + random.nextInt(HEIGHT - SEA - 8);
      graphics.drawArc(x, y, 12 + scene.waves() * 2, 4 + scene.waves(), 20, 140);
    }
    if (scene.ship()) {
      ship(graphics);
    }
    if (scene.snow()) {
      graphics.setColor(Color.WHITE);
      for (int i = 0; i < 160; i++) {
        graphics.fillOval(random.nextInt(WIDTH), random.nextInt(HEIGHT), 3, 3);
      }
    }
    graphics.dispose();
    Path file = folder.resolve(name);
    Files.createDirectories(folder);
    try (OutputStream out = Files.newOutputStream(file)) {
      ImageIO.write(image, "jpeg", out);
    }
    Files.setLastModifiedTime(file, FileTime.from(when));
  }

  private static Path2D hills(String name) {
    Random random = new Random(name.length());
    Path2D hills = new Path2D.Double();
    hills.moveTo(0, SEA);
    for (int x = 0; x <= WIDTH; x += 40) {
      hills.lineTo(x, SEA - 12 - random.nextInt(34));
    }
    hills.lineTo(WIDTH, SEA);
    hills.closePath();
    return hills;
  }

  private static void ship(Graphics2D graphics) {
    graphics.setColor(new Color(0xB33A3A));
    graphics.fill(new Polygon(new int[] {96, 236, 220, 112}, new int[] {112, 112, 132, 132}, 4));
    graphics.setColor(Color.WHITE);
    graphics.fillRect(124, 92, 84, 20);
    graphics.fillRect(150, 78, 36, 14);
    graphics.setColor(new Color(0x2B2B2B));
    graphics.fillRect(160, 60, 10, 18);
    for (int x = 130; x < 204; x += 14) {
      graphics.fillOval(x, 98, 7, 7);
    }
  }
}
