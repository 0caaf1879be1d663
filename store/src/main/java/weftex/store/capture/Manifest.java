package weftex.store.capture;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import com.fasterxml.jackson.annotation.JsonInclude;
import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.annotation.JsonPropertyOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;

/**
 * What a capture says of itself.
 *
 * @param format the format's version
 * @param site the site's name in weftex.yaml
 * @param copy the copy that was recorded
 * @param place where that copy was
 * @param marked when, as an ISO 8601 instant
 * @param tool the version that recorded it
 * @param tables one entry a table
 * @param evidence SHA-256 of what a worked-out base stands on; null in a recorded one
 * @param files SHA-256 of what the files of both copies were; null where nobody looked
 * @param sha256 of all the rest (see {@link #seal}); missing in a base of an older version
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
@JsonIgnoreProperties(value = "weftex", allowGetters = true)
@JsonPropertyOrder("weftex")
record Manifest(
    int format,
    String site,
    String copy,
    String place,
    String marked,
    String tool,
    List<Entry> tables,
    String evidence,
    String files,
    String sha256) {

  /** Since format 2 it has hashes; an older one is read, and nobody can say that it is whole. */
  static final int RECORDED = 2;

  /** One that was worked out has its evidence, too, which an older version must not overlook. */
  static final int WORKED_OUT = 3;

  /** One that knows of files, too, likewise. */
  static final int FORMAT = 4;

  Manifest {
    if (site == null || copy == null || place == null || marked == null || tables == null) {
      throw new IllegalArgumentException("it lacks a member");
    }
  }

  /** What kind of file it is. */
  @JsonProperty("weftex")
  String kind() {
    return "capture";
  }

  /** The same, sealed. */
  Manifest sealed() {
    return new Manifest(format, site, copy, place, marked, tool, tables, evidence, files, seal());
  }

  boolean isSealed() {
    return sha256 != null;
  }

  /** SHA-256 of everything that is said here, one thing a line. */
  String seal() {
    List<String> said =
        new ArrayList<>(List.of("" + format, site, copy, place, marked, String.valueOf(tool)));
    for (Entry entry : tables) {
      said.addAll(List.of(entry.name(), entry.file(), "" + entry.rows()));
      said.add(String.join("\t", entry.columns()));
      said.add(String.join("\t", entry.key()));
      said.add(entry.sha256() + " " + entry.ranges());
    }
    if (evidence != null) {
      said.add(evidence);
    }
    if (files != null) {
      said.add("files " + files);
    }
    return HexFormat.of()
        .formatHex(
            Hashes.sha256().digest(String.join("\n", said).getBytes(StandardCharsets.UTF_8)));
  }

  /**
   * A recorded table.
   *
   * @param file the Avro file's name in the folder
   * @param rows how many
   * @param columns names, in the order of the file's fields
   * @param key how the key columns are ordered
   * @param sha256 of the file; null in a base of an older version
   * @param ranges SHA-256 of the file of its ranges; null if there is none
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record Entry(
      String name,
      String file,
      long rows,
      List<String> columns,
      List<String> key,
      String sha256,
      String ranges) {
    Entry {
      if (name == null || file == null || columns == null || key == null) {
        throw new IllegalArgumentException("an entry lacks a member");
      }
      if (!file.matches("\\d+\\.avro")) {
        throw new IllegalArgumentException("an entry names a file elsewhere");
      }
    }
  }
}
