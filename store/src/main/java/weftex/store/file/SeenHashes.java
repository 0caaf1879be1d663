package weftex.store.file;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.changeset.JsonLines;
import weftex.core.file.FileContent;
import weftex.store.state.Files0600;

/**
 * What files of a copy were found to hold, so that none is read twice: it counts as long as size
 * and time stay. Losing this costs time alone.
 */
public final class SeenHashes {
  /** A file that was written so shortly before may be written once more within the same tick. */
  private static final Duration SETTLED = Duration.ofSeconds(3);

  private final Path file;
  private final String place;
  private final Map<String, Seen> all = new TreeMap<>();
  private boolean changed;

  private record Seen(FileContent content, Instant modified) {}

  private SeenHashes(Path file, String place) {
    this.file = file;
    this.place = place;
  }

  /**
   * Reads what is known; nothing where that is damaged or of another place.
   *
   * @param place the folder in words
   */
  public static SeenHashes open(Path file, String place) {
    SeenHashes hashes = new SeenHashes(file, place);
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      JsonLines.Lines lines = new JsonLines.Lines(in);
      boolean first = true;
      while (!lines.atEnd()) {
        JsonNode line = JsonLines.parse(lines.next());
        if (first && !line.path("folder").asText().equals(place)) {
          return hashes;
        }
        if (!first) {
          hashes.all.put(
              line.get("path").asText(),
              new Seen(
                  new FileContent(line.get("sha256").asText(), line.get("bytes").asLong()),
                  Instant.parse(line.get("modified").asText())));
        }
        first = false;
      }
    } catch (IOException | RuntimeException e) {
      hashes.all.clear();
    }
    return hashes;
  }

  /** What a file holds, if it lies there as it did when that was found. */
  Optional<FileContent> of(String path, Folder.Entry entry) {
    Seen seen = all.get(path);
    return seen != null
            && seen.content().bytes() == entry.bytes()
            && seen.modified().equals(entry.modified())
        ? Optional.of(seen.content())
        : Optional.empty();
  }

  void put(String path, Folder.Entry entry, String sha256) {
    if (entry.modified().isBefore(Instant.now().minus(SETTLED))) {
      all.put(path, new Seen(new FileContent(sha256, entry.bytes()), entry.modified()));
      changed = true;
    }
  }

  /** Writes it down. */
  public void save() throws IOException {
    if (!changed) {
      return;
    }
    Files0600.createFolder(file.getParent());
    Files0600.whole(
        file,
        out -> {
          JsonLines.write(
              out,
              json -> {
                json.writeStringField("weftex", "seen-files");
                json.writeStringField("folder", place);
              });
          for (Map.Entry<String, Seen> one : all.entrySet()) {
            JsonLines.write(
                out,
                json -> {
                  json.writeStringField("path", one.getKey());
                  json.writeStringField("sha256", one.getValue().content().sha256());
                  json.writeNumberField("bytes", one.getValue().content().bytes());
                  json.writeStringField("modified", one.getValue().modified().toString());
                });
          }
        });
    changed = false;
  }
}
