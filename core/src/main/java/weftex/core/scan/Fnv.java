package weftex.core.scan;

import java.nio.charset.StandardCharsets;
import java.util.List;
import weftex.core.row.Value;

/** FNV-1a with 64 bits (G. Fowler, L. C. Noll, K.-P. Vo); equal hashes are looked at again. */
final class Fnv {
  private Fnv() {}

  static long hash(List<Value> values) {
    long hash = 0xcbf29ce484222325L;
    for (Value value : values) {
      byte[] bytes =
          value instanceof Value.Text text
              ? text.utf8()
              : value.display().getBytes(StandardCharsets.UTF_8);
      for (byte b : bytes) {
        hash = (hash ^ b & 0xFF) * 0x100000001b3L;
      }
      hash = (hash ^ ',') * 0x100000001b3L;
    }
    return hash;
  }
}
