package weftex.cli.page;

import java.util.Locale;
import weftex.cli.session.Took;

/** Sizes of files, and how long something took, as people read them. */
public final class Sizes {
  private static final String[] UNITS = {"bytes", "kB", "MB", "GB", "TB"};
  private static final double STEP = 1000;
  private static final int FEW = 10;
  private static final int MINUTE = 60;

  private Sizes() {}

  /** Such as {@code 812 bytes} or {@code 1.4 MB}. */
  public static String shown(long bytes) {
    double size = bytes;
    int unit = 0;
    while (size >= STEP && unit < UNITS.length - 1) {
      size /= STEP;
      unit++;
    }
    return unit == 0
        ? bytes + (bytes == 1 ? " byte" : " bytes")
        : String.format(Locale.ROOT, size < 10 ? "%.1f %s" : "%.0f %s", size, UNITS[unit]);
  }

  /** Such as {@code 0.4 s}, {@code 12 s} or {@code 3 min 20 s}. */
  public static String seconds(double seconds) {
    if (seconds < FEW) {
      return String.format(Locale.ROOT, "%.1f s", seconds);
    }
    long whole = Math.round(seconds);
    return whole < MINUTE ? whole + " s" : whole / MINUTE + " min " + whole % MINUTE + " s";
  }

  /** Both, such as {@code 1.4 MB, in 12 s}. */
  public static String shown(Took took) {
    return shown(took.bytes()) + ", in " + seconds(took.seconds());
  }
}
