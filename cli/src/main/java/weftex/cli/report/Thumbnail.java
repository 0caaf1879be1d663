package weftex.cli.report;

import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.Base64;
import java.util.Iterator;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;

/**
 * A small view of a picture. The file may be anybody's: its size is looked at before it is
 * unpacked, only so many of its points are taken, and whatever fails gives no view.
 */
final class Thumbnail {
  private static final int WIDTH = 160;
  private static final int HEIGHT = 110;
  private static final long MOST_POINTS = 60_000_000;
  private static final Set<String> FORMATS = Set.of("jpeg", "png", "gif", "bmp");

  static {
    System.setProperty("java.awt.headless", "true");
    ImageIO.setUseCache(false);
  }

  private Thumbnail() {}

  /** A {@code data:} address of the view; empty if there is none. */
  static Optional<String> of(InputStream picture) {
    try (ImageInputStream in = ImageIO.createImageInputStream(picture)) {
      Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
      if (!readers.hasNext()) {
        return Optional.empty();
      }
      ImageReader reader = readers.next();
      try {
        return FORMATS.contains(reader.getFormatName().toLowerCase(Locale.ROOT))
            ? read(reader, in)
            : Optional.empty();
      } finally {
        reader.dispose();
      }
    } catch (IOException | RuntimeException e) {
      // What is no picture, or a broken one, has no view; the report says its size and hash.
      return Optional.empty();
    }
  }

  private static Optional<String> read(ImageReader reader, ImageInputStream in) throws IOException {
    reader.setInput(in, true, true);
    int width = reader.getWidth(0);
    int height = reader.getHeight(0);
    if (width < 1 || height < 1 || (long) width * height > MOST_POINTS) {
      return Optional.empty();
    }
    ImageReadParam few = reader.getDefaultReadParam();
    int step = Math.max(1, Math.min(width / (2 * WIDTH), height / (2 * HEIGHT)));
    few.setSourceSubsampling(step, step, 0, 0);
    BufferedImage read = reader.read(0, few);
    double scale =
        Math.min(1, Math.min((double) WIDTH / read.getWidth(), (double) HEIGHT / read.getHeight()));
    BufferedImage view =
        new BufferedImage(
            (int) Math.max(1, Math.round(read.getWidth() * scale)),
            (int) Math.max(1, Math.round(read.getHeight() * scale)),
            BufferedImage.TYPE_INT_RGB);
    Graphics2D graphics = view.createGraphics();
    graphics.setColor(Color.WHITE);
    graphics.fillRect(0, 0, view.getWidth(), view.getHeight());
    graphics.setRenderingHint(
        RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
    graphics.drawImage(read, 0, 0, view.getWidth(), view.getHeight(), null);
    graphics.dispose();
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    ImageIO.write(view, "jpeg", bytes);
    return Optional.of(
        "data:image/jpeg;base64," + Base64.getEncoder().encodeToString(bytes.toByteArray()));
  }
}
