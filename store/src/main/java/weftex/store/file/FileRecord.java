package weftex.store.file;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.changeset.JsonLines;
import weftex.core.file.FileContent;
import weftex.core.row.Value;
import weftex.store.seal.AtRest;

/**
 * What the files were on each copy when the base was recorded, as far as rows named them. What
 * differed then is each copy's own until it changes there.
 */
public final class FileRecord {
  /** Of its file, beside the tables of the base. */
  public static final String FILE = "files.jsonl";

  /** Nothing is known of any file. */
  public static final FileRecord NONE = new FileRecord();

  private final Map<String, Map<String, Optional<FileContent>>> files = new TreeMap<>();

  private FileRecord() {}

  /** The paths, in order. */
  public Collection<String> paths() {
    return Collections.unmodifiableSet(files.keySet());
  }

  /** What a file was, by the copy's name; empty where it was not there. */
  Optional<Map<String, Optional<FileContent>>> of(String path) {
    return Optional.ofNullable(files.get(path));
  }

  /**
   * What was found when it was recorded.
   *
   * @param files how many
   * @param bytes of the recorded copy's
   * @param differing how many the other copy has otherwise
   * @param missing how many the recorded copy lacks, though rows name them
   */
  public record Recorded(long files, long bytes, long differing, long missing) {}

  /**
   * Records files. One of the same size and time is taken for the same on the farther copy, unless
   * that is to be read, too.
   *
   * @param paths which rows of the recorded copy name
   * @param copies both, by name, the recorded one first
   */
  public static FileRecord record(
      Collection<String> paths, Map<String, CopyFiles> copies, boolean thorough)
      throws IOException {
    FileRecord record = new FileRecord();
    Map.Entry<String, CopyFiles> first = null;
    Map.Entry<String, CopyFiles> second = null;
    for (Map.Entry<String, CopyFiles> copy : copies.entrySet()) {
      if (first == null) {
        first = copy;
      } else {
        second = copy;
      }
    }
    boolean swap = !first.getValue().folder().isNear() && second.getValue().folder().isNear();
    Map.Entry<String, CopyFiles> near = swap ? second : first;
    Map.Entry<String, CopyFiles> far = swap ? first : second;
    for (String path : paths) {
      Optional<FileContent> here = near.getValue().content(path);
      Optional<Folder.Entry> here2 = near.getValue().find(path);
      Optional<Folder.Entry> there = far.getValue().find(path);
      if (!thorough && here.isPresent() && there.isPresent() && there.equals(here2)) {
        far.getValue().takeFor(path, there.get(), here.get());
      }
      Map<String, Optional<FileContent>> both = new LinkedHashMap<>();
      both.put(near.getKey(), here);
      both.put(far.getKey(), far.getValue().content(path));
      record.files.put(path, both);
    }
    return record;
  }

  /** What is said of the recording. */
  public Recorded summary(String recorded) {
    long bytes = 0;
    long differing = 0;
    long missing = 0;
    for (Map<String, Optional<FileContent>> both : files.values()) {
      Optional<FileContent> own = both.get(recorded);
      bytes += own.map(FileContent::bytes).orElse(0L);
      missing += own.isEmpty() ? 1 : 0;
      differing += both.values().stream().distinct().count() > 1 ? 1 : 0;
    }
    return new Recorded(files.size() - missing, bytes, differing, missing);
  }

  /** Writes it into the folder of a base. */
  public void write(Path folder, AtRest atRest) throws IOException {
    try (OutputStream out = atRest.create(folder.resolve(FILE))) {
      for (Map.Entry<String, Map<String, Optional<FileContent>>> file : files.entrySet()) {
        JsonLines.write(
            out,
            json -> {
              json.writeStringField("path", file.getKey());
              for (Map.Entry<String, Optional<FileContent>> copy : file.getValue().entrySet()) {
                if (copy.getValue().isPresent()) {
                  json.writeStringField(copy.getKey(), copy.getValue().get().value().display());
                } else {
                  json.writeNullField(copy.getKey());
                }
              }
            });
      }
    }
  }

  /** Reads it; nothing if there is none. */
  public static FileRecord read(Path folder, AtRest atRest) throws IOException {
    Path file = folder.resolve(FILE);
    if (!Files.exists(file)) {
      return NONE;
    }
    FileRecord record = new FileRecord();
    try (InputStream in = atRest.open(file)) {
      JsonLines.Lines lines = new JsonLines.Lines(in);
      while (!lines.atEnd()) {
        JsonNode line = JsonLines.parse(lines.next());
        Map<String, Optional<FileContent>> copies = new LinkedHashMap<>();
        for (Map.Entry<String, JsonNode> member : line.properties()) {
          if (!member.getKey().equals("path")) {
            copies.put(member.getKey(), FileContent.of(Value.text(member.getValue().asText())));
          }
        }
        record.files.put(line.get("path").asText(), copies);
      }
    }
    return record;
  }
}
