package weftex.core.file;

import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import weftex.core.reference.PathPattern;
import weftex.core.site.Contents;
import weftex.core.value.Place;

/**
 * Where in a value a name stands.
 *
 * @param before what stands before the name to make a path of it
 */
record FileNaming(Optional<PathPattern> path, String before) {

  static Optional<FileNaming> of(Contents.NamedFile rule, byte[] value) {
    if (rule.path().isEmpty()) {
      return Optional.of(new FileNaming(Optional.empty(), rule.under()));
    }
    return NamedFiles.folder(rule, value)
        .map(folder -> new FileNaming(Optional.of(new PathPattern(rule.path())), folder));
  }

  boolean isAt(Place place) {
    return path.map(pattern -> pattern.matches(place.path())).orElse(place.path().isEmpty());
  }

  /** Inside of JSON the slashes may be escaped. */
  Optional<byte[]> renamed(byte[] written, Map<String, String> toTarget) {
    String text = new String(written, StandardCharsets.UTF_8);
    boolean escaped = text.contains("\\/");
    String to = toTarget.get(before + text.replace("\\/", "/"));
    if (to == null || !to.startsWith(before)) {
      return Optional.empty();
    }
    String name = to.substring(before.length());
    return Optional.of(
        (escaped ? name.replace("/", "\\/") : name).getBytes(StandardCharsets.UTF_8));
  }
}
