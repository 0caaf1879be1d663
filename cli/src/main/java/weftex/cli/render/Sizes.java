package weftex.cli.render;

import java.util.Locale;

/** Sizes of files as people read them. */
public final class Sizes {
  private static final String[] UNITS = {"bytes", "kB", "MB", "GB", "TB"};
  private static final double STEP = 1000;

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
}
