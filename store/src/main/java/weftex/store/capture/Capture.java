package weftex.store.capture;

import com.fasterxml.jackson.core.JacksonException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.compare.KeyRange;
import weftex.core.compare.RangeDigests;
import weftex.core.compare.RangedSide;
import weftex.core.match.BaseEvidence;
import weftex.core.row.RowStream;
import weftex.core.row.Table;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Layout;
import weftex.store.file.FileRecord;
import weftex.store.rows.RowDigest;
import weftex.store.seal.AtRest;

/** A recorded base, read as a side of a comparison. */
public final class Capture implements RangedSide {
  static final String MANIFEST = "manifest.json";
  private static final String RECORD_ANEW =
      "Bring its folder back from a backup, or record it again with 'weftex mark' when both copies"
          + " have the same content.";

  private final Path folder;
  private final Manifest manifest;
  private final AtRest atRest;
  private final Map<String, Manifest.Entry> entries = new HashMap<>();

  private Capture(Path folder, Manifest manifest, AtRest atRest) {
    this.folder = folder;
    this.atRest = atRest;
    this.manifest = manifest;
    manifest.tables().forEach(entry -> entries.put(entry.name(), entry));
  }

  /** Whether a base has been recorded in a folder. */
  public static boolean isIn(Path folder) {
    // Where the right to look is missing, nobody can say that there is none.
    return !Files.notExists(folder.resolve(MANIFEST));
  }

  /**
   * Opens a recorded base.
   *
   * @param site the site it must be of
   * @param atRest how it may be kept
   * @throws Refusal if it is damaged, of a newer format or of another site
   */
  public static Capture open(Path folder, String site, AtRest atRest) throws Refusal {
    Capture capture = new Capture(folder, manifest(folder), atRest);
    Manifest manifest = capture.manifest;
    if (!manifest.site().equals(site)) {
      throw refusal(
          "The base in "
              + folder
              + " is of the site '"
              + manifest.site()
              + "', and weftex.yaml is of '"
              + site
              + "'.",
          "Correct 'site' in weftex.yaml, or record a base of this site with 'weftex mark'.");
    }
    if (manifest.isSealed() && !manifest.sha256().equals(manifest.seal())) {
      throw refusal(
          "The base in " + folder + " is not as it was recorded: " + MANIFEST + " was altered.",
          RECORD_ANEW);
    }
    return capture;
  }

  /** Whether nobody recorded it: it was worked out of two copies that had parted. */
  public boolean isWorkedOut() {
    return manifest.evidence() != null;
  }

  /** What a worked-out base stands on; nothing for a recorded one. */
  public BaseEvidence evidence() throws IOException {
    return manifest.evidence() == null
        ? BaseEvidence.NONE
        : Evidence.read(folder, manifest.evidence(), atRest);
  }

  /**
   * What the files of both copies were; nothing where nobody looked at them.
   *
   * @throws DamagedBase if that is not as it was recorded
   */
  public FileRecord files() throws IOException {
    if (manifest.files() == null) {
      return FileRecord.NONE;
    }
    Path file = folder.resolve(FileRecord.FILE);
    if (!hash(file).equals(manifest.files())) {
      throw DamagedBase.of(file, "it is not as it was recorded");
    }
    return FileRecord.read(folder, atRest);
  }

  /** When the base in a folder was recorded, as an ISO 8601 instant; nothing else is checked. */
  public static String markedIn(Path folder) throws Refusal {
    return described(folder).marked();
  }

  /** A recorded base as it describes itself, which is not checked; its rows can't be read. */
  static Capture described(Path folder) throws Refusal {
    return new Capture(folder, manifest(folder), AtRest.CLEAR);
  }

  private static Manifest manifest(Path folder) throws Refusal {
    try {
      JsonNode json =
          JsonMapper.builder().build().readTree(Files.readAllBytes(folder.resolve(MANIFEST)));
      int format = json.path("format").asInt();
      if (format < 1 || format > Manifest.FORMAT) {
        throw refusal(
            "The base in "
                + folder
                + " has format "
                + format
                + ", and this version reads formats 1 to "
                + Manifest.FORMAT
                + ".",
            "Use the version that recorded it, or record a new base with 'weftex mark'.");
      }
      return new JsonMapper().treeToValue(json, Manifest.class);
    } catch (AccessDeniedException e) {
      throw refusal(
          "The base in "
              + folder
              + " can't be read: this user has no right to "
              + e.getFile()
              + ".",
          "Have the right granted; the folder belongs to whoever recorded the base.");
    } catch (JacksonException e) {
      throw refusal(
          "The base in "
              + folder
              + " is damaged: "
              + MANIFEST
              + " was cut short or altered ("
              + e.getOriginalMessage().lines().findFirst().orElse("")
              + ").",
          RECORD_ANEW);
    } catch (IOException e) {
      throw refusal(
          "The base in " + folder + " can't be read: " + FailureWords.of(e) + ".", RECORD_ANEW);
    }
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", next);
  }

  /** Whether it has hashes by which it is known to be as it was recorded. */
  public boolean isSealed() {
    return manifest.isSealed();
  }

  /** By what it is known among all bases: the hash of all that it says. */
  public String id() {
    return manifest.sha256();
  }

  /** When it was recorded, as an ISO 8601 instant. */
  public String marked() {
    return manifest.marked();
  }

  /** How many rows were recorded. */
  public long rows() {
    return manifest.tables().stream().mapToLong(Manifest.Entry::rows).sum();
  }

  /** The copy that was recorded. */
  public String copy() {
    return manifest.copy();
  }

  /**
   * Where the base stands in the ledger of a copy; empty if nobody wrote it down.
   *
   * @throws DamagedBase if what was written down was altered
   */
  public Optional<LedgerPlace> inLedger(String copyName) throws IOException {
    return Optional.ofNullable(BasePlace.of(folder).ledgers().get(copyName));
  }

  /** The recorded columns of a table; empty if it was not recorded. */
  public List<String> columns(String table) {
    Manifest.Entry entry = entries.get(table);
    return entry == null ? List.of() : entry.columns();
  }

  /**
   * Checks that the recorded order of keys is that in which the copies are going to be read.
   *
   * @throws Refusal if the order of a table changed, for instance with its collation
   */
  public void checkOrder(List<Layout> layouts) throws Refusal {
    for (Layout layout : layouts) {
      Manifest.Entry entry = entries.get(layout.table().name());
      List<String> now = layout.keyParts().stream().map(Object::toString).toList();
      if (entry != null && layout.table().hasKey() && !entry.key().equals(now)) {
        throw refusal(
            "The key of table "
                + layout.table().name()
                + " was ordered by "
                + entry.key()
                + " when the base was recorded, and is now by "
                + now
                + ".",
            "Record a new base with 'weftex mark' when both copies are alike.");
      }
    }
  }

  @Override
  public RowStream open(Table table) throws IOException {
    Manifest.Entry entry = entries.get(table.name());
    if (entry == null) {
      return RowStream.EMPTY;
    }
    return new CaptureRowStream(atRest, folder, entry, KeyPositions.positions(entry, table));
  }

  /**
   * Only if the table is read with the very columns that were recorded, since digests are of whole
   * rows.
   */
  @Override
  public Optional<RangeDigests> digests(Table table, long width) throws IOException {
    Manifest.Entry entry = entries.get(table.name());
    List<String> asked = table.columns().stream().map(column -> column.name()).toList();
    if (entry == null || !entry.columns().equals(asked)) {
      return Optional.empty();
    }
    Path ranges = RangeWriter.of(folder.resolve(entry.file()));
    if (entry.ranges() != null && !entry.ranges().equals(hash(ranges))) {
      throw DamagedBase.of(ranges, "it is not as it was recorded");
    }
    if (RangeRenewal.isDue(atRest, ranges) && Files.isWritable(folder)) {
      try (RowStream rows = open(table)) {
        RangeRenewal.renew(atRest, ranges, rows, new RowDigest(table));
      }
    }
    return RangeFile.read(atRest, ranges).map(RangeDigests::bounded);
  }

  @Override
  public RowStream open(Table table, List<KeyRange> ranges) throws IOException {
    Path file = folder.resolve(entries.get(table.name()).file());
    return new CaptureRangeStream(
        atRest,
        file,
        RangeFile.contents(atRest, RangeWriter.of(file), ranges),
        ranges,
        new RowDigest(table));
  }

  private String hash(Path file) throws IOException {
    try {
      return Hashes.of(atRest, file);
    } catch (NoSuchFileException e) {
      throw DamagedBase.of(file, "it is missing");
    }
  }
}
