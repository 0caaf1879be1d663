package weftex.store.seal;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The parts of files that were opened last; each has a mebibyte at the most. */
final class OpenedContent {
  static final int MOST = 16;

  private final Map<Object, byte[]> parts =
      new LinkedHashMap<>(MOST, 0.75f, true) {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Object, byte[]> eldest) {
          return size() > MOST;
        }
      };

  synchronized byte[] content(SealedFile of, SealedParts.Part part) throws IOException {
    Object key = List.of(of.file, part);
    byte[] content = parts.get(key);
    if (content == null) {
      byte[] sealed = of.bytes(part.begin(), (int) (part.end() - part.begin()));
      content = of.opener().opened(sealed);
      parts.put(key, content);
    }
    return content;
  }
}
