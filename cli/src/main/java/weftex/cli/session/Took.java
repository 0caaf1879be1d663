package weftex.cli.session;

/**
 * What something took.
 *
 * @param seconds how long
 * @param bytes how much it takes on the disk
 */
public record Took(double seconds, long bytes) {
  private static final double NANOS = 1e9;

  /**
   * @param began by {@link System#nanoTime}
   */
  public static Took since(long began, long bytes) {
    return new Took(secondsSince(began), bytes);
  }

  /**
   * @param began by {@link System#nanoTime}
   */
  public static double secondsSince(long began) {
    return (System.nanoTime() - began) / NANOS;
  }
}
