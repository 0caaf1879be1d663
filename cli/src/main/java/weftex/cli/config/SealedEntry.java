package weftex.cli.config;

import com.fasterxml.jackson.annotation.JsonCreator;
import java.util.List;

/**
 * Whether what is kept of the pair, and its drafts, are encrypted: {@code true} for whoever makes
 * the state folder, or the public keys of all who may open them.
 *
 * @param on whether they are
 * @param receivers public keys, or files with them, from the folder of weftex.yaml; none for the
 *     user's own
 */
public record SealedEntry(boolean on, List<String> receivers) {
  static final SealedEntry OFF = new SealedEntry(false, List.of());

  /** For whoever makes the state folder. */
  @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
  static SealedEntry of(boolean on) {
    return new SealedEntry(on, List.of());
  }

  /** For some people. */
  @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
  static SealedEntry of(List<String> receivers) {
    if (receivers.isEmpty()) {
      throw new IllegalArgumentException(
          "'sealed' names nobody; write 'sealed: true', or the public keys of all who may open it");
    }
    return new SealedEntry(true, List.copyOf(receivers));
  }
}
