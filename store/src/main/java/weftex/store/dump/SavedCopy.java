package weftex.store.dump;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipException;
import weftex.store.FailureWords;
import weftex.store.FileProblem;
import weftex.store.Refusal;
import weftex.store.seal.AtRest;

/**
 * A file that {@link CopySaver} wrote.
 *
 * @param site the site that it is of
 * @param taken when it was saved, as an ISO 8601 instant
 * @param prefix what the names of its tables begin with
 * @param tables their whole names
 * @param atRest how it may be kept
 */
public record SavedCopy(
    Path file,
    String site,
    String copy,
    String place,
    String prefix,
    String taken,
    String server,
    List<String> tables,
    AtRest atRest) {
  private static final int FRONT = 1 << 20;

  /** The last two lines. */
  private static final int TAIL =
      ("-- " + CopySaver.SHA256 + ": \"\"\n" + CopySaver.COMPLETE).length() + 64;

  private static final int ROWS = 1 << 21;

  /** Whether a file begins as those that Weftex saved; one that can't be read does not. */
  public static boolean isOne(Path file, AtRest atRest) {
    try (InputStream in = PackedFile.unpack(atRest.open(file))) {
      byte[] title = CopySaver.TITLE.getBytes(StandardCharsets.UTF_8);
      return Arrays.equals(in.readNBytes(title.length), title);
    } catch (IOException e) {
      // Whoever opens it will say what is wrong with it.
      return false;
    }
  }

  /**
   * Reads what a file says of itself.
   *
   * @throws Refusal if it is not there, or not one that Weftex saved
   */
  public static SavedCopy open(Path file, AtRest atRest) throws Refusal, IOException {
    checkThere(file);
    String front;
    try (InputStream in = PackedFile.unpack(atRest.open(file))) {
      front = new String(in.readNBytes(FRONT), StandardCharsets.UTF_8);
    } catch (FileProblem e) {
      throw e;
    } catch (IOException e) {
      throw refusal(file, "can't be read", FailureWords.of(e));
    }
    if (!front.startsWith(CopySaver.TITLE)) {
      throw refusal(file, "is none that 'weftex save' wrote", "");
    }
    Map<String, JsonNode> members = new HashMap<>();
    for (String line : front.split("\n")) {
      if (line.isEmpty()) {
        break;
      }
      member(line, members);
    }
    int format = members.containsKey("format") ? members.get("format").asInt() : 0;
    if (format != CopySaver.FORMAT) {
      throw refusal(file, "has format " + format + ", and this version reads format 1", "");
    }
    List<String> tables = new ArrayList<>();
    members.getOrDefault("tables", CopySaver.JSON.nullNode()).forEach(t -> tables.add(t.asText()));
    return new SavedCopy(
        file,
        text(members, "site"),
        text(members, "copy"),
        text(members, "place"),
        text(members, "prefix"),
        text(members, "taken"),
        text(members, "server"),
        tables,
        atRest);
  }

  private static void checkThere(Path file) throws Refusal, IOException {
    if (!Files.isRegularFile(file)) {
      throw refusal(file, Files.exists(file) ? "is no ordinary file" : "is not there", "");
    }
    if (Files.size(file) == 0) {
      throw refusal(file, "is empty", "");
    }
  }

  /** What is in the file, packed as it was written. */
  InputStream open() throws IOException {
    return atRest.open(file);
  }

  private static void member(String line, Map<String, JsonNode> members) {
    int colon = line.indexOf(": ");
    if (line.startsWith("-- ") && colon > 0) {
      try {
        members.put(line.substring(3, colon), CopySaver.JSON.readTree(line.substring(colon + 2)));
      } catch (JsonProcessingException e) {
        // A line for people.
      }
    }
  }

  private static String text(Map<String, JsonNode> members, String name) {
    return members.containsKey(name) ? members.get(name).asText() : "";
  }

  /**
   * Reads the whole file, and checks that it is as it was written.
   *
   * @return how many rows it has, by table
   * @throws Refusal if it is cut off or was altered
   */
  public Map<String, Long> verify() throws Refusal, IOException {
    MessageDigest digest = CopySaver.sha256();
    byte[] window = new byte[ROWS + (1 << 16)];
    int held = 0;
    try (InputStream in = PackedFile.unpack(open())) {
      for (int read = in.read(window, held, window.length - held);
          read >= 0;
          read = in.read(window, held, window.length - held)) {
        held += read;
        if (held == window.length) {
          // What is behind the window is needed no more; its end may be the trailer.
          int gone = held - ROWS;
          digest.update(window, 0, gone);
          System.arraycopy(window, gone, window, 0, ROWS);
          held = ROWS;
        }
      }
    } catch (EOFException | ZipException e) {
      throw refusal(file, "is cut off", FailureWords.of(e));
    } catch (FileProblem e) {
      throw e;
    } catch (IOException e) {
      // zstd has no exception of its own for a damaged frame.
      throw refusal(file, "can't be read to its end", FailureWords.of(e));
    }
    int body = held - TAIL;
    String end = body < 0 ? "" : new String(window, body, TAIL, StandardCharsets.UTF_8);
    if (!end.endsWith(CopySaver.COMPLETE) || !end.startsWith("-- " + CopySaver.SHA256)) {
      throw refusal(file, "is cut off", "its last line is not '-- complete'");
    }
    digest.update(window, 0, body);
    if (!end.contains(HexFormat.of().formatHex(digest.digest()))) {
      throw refusal(file, "is not as it was written", "its SHA-256 is another one");
    }
    return rows(Arrays.copyOfRange(window, 0, body));
  }

  private Map<String, Long> rows(byte[] before) throws Refusal {
    String text = new String(before, StandardCharsets.UTF_8);
    Map<String, JsonNode> members = new HashMap<>();
    member(text.substring(text.lastIndexOf("\n-- rows: ") + 1).strip(), members);
    if (!members.containsKey("rows")) {
      throw refusal(file, "does not say how many rows it has", "");
    }
    Map<String, Long> rows = new LinkedHashMap<>();
    members.get("rows").properties().forEach(e -> rows.put(e.getKey(), e.getValue().asLong()));
    return rows;
  }

  private static Refusal refusal(Path file, String what, String why) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT,
        file
            + " "
            + what
            + (why == null || why.isEmpty() ? "" : ": " + why)
            + ". Nothing was changed.",
        "Name a whole file that 'weftex save' wrote; 'weftex history' lists the restore points.");
  }
}
