package weftex.cli.workplace;

import java.util.Optional;
import weftex.store.compare.CopyMarks;

/** Says how a copy stands to the base, where that is not as it should be. */
public final class StandingText {
  private StandingText() {}

  /**
   * A sentence or two, with what to do.
   *
   * @param other the name of the other copy
   * @return empty if the copy fits the base
   */
  public static Optional<String> sentence(String copy, String other, CopyMarks.Standing standing) {
    return switch (standing) {
      case FITS -> Optional.empty();
      case OTHERS ->
          Optional.of(
              copy
                  + " was recreated from "
                  + other
                  + " since the base was recorded, so it has "
                  + other
                  + "'s IDs. Record a new base with 'weftex mark'.");
      case OLDER ->
          Optional.of(
              copy
                  + " is older than the base: it was restored from a backup of before, and what it lacks"
                  + " counts as removed there. 'weftex mark --back' returns to the base that belongs to it.");
      case UNKNOWN ->
          Optional.of(
              copy
                  + " does not know of the base: it is another database than the one with which that was"
                  + " recorded, or was recreated without its table weftex_ledger. If it is a new copy,"
                  + " record a base with 'weftex mark' first.");
    };
  }
}
