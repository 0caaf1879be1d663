package weftex.core.address;

import java.util.Optional;

/**
 * By what a copy knows itself.
 *
 * @param base its base address
 * @param twin whether it answers to the same host with, or without, {@code www.} too
 * @param folder its folder in the file system, without a slash at its end
 */
public record CopyAddress(Optional<Address> base, boolean twin, Optional<String> folder) {
  /** Nothing is known. */
  public static final CopyAddress NONE = new CopyAddress(Optional.empty(), false, Optional.empty());

  public CopyAddress {
    folder = folder.map(path -> path.replaceFirst("/+$", ""));
    if (folder.isPresent() && !folder.get().matches("(/[^/]+)+|[A-Za-z]:(/[^/]+)+")) {
      throw new IllegalArgumentException(
          "'" + folder.get() + "' is no folder: write it from the root, such as /var/www/site");
    }
  }
}
