package weftex.core.mask;

import java.util.Optional;

/**
 * How the personal data of one copy become those of the other.
 *
 * @param into makes values up, if the copy that receives rows has made-up ones
 * @param from whether the copy that rows come from has made-up ones
 */
public record Masking(Optional<MadeUp> into, boolean from) {
  /** Both copies have real ones. */
  public static final Masking NONE = new Masking(Optional.empty(), false);

  /** The source has made-up values. */
  public static final Masking FROM = new Masking(Optional.empty(), true);

  /** The target has made-up values. */
  public static Masking into(MadeUp madeUp) {
    return new Masking(Optional.of(madeUp), false);
  }
}
