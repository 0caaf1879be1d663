package weftex.store.receipt;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.changeset.JsonLines;
import weftex.core.changeset.JsonValues;
import weftex.core.file.FileRows;
import weftex.core.row.RowName;
import weftex.core.row.Value;

/**
 * The rows of a receipt, found again by their place in the file; memory holds places, not values.
 */
public final class ReceiptRows implements AutoCloseable {
  /** In the line of an added row, among its first members. */
  private static final String ADDED = "\"do\":\"add\"";

  /** In the line of a file, likewise. */
  private static final String OF_FILE = "\"table\":\"" + FileRows.TABLE + "\"";

  private static final int NO_ROW = -1;

  /** Files are counted downwards from here. */
  private static final int FIRST_FILE = -2;

  private final ReceiptFile file;
  private final List<Place> after = new ArrayList<>();
  private final Map<Integer, Place> before = new HashMap<>();
  private final List<Place> effects = new ArrayList<>();
  private final List<Place> kept = new ArrayList<>();

  /** Files, which no transaction writes. */
  private final List<Place> files = new ArrayList<>();

  private final BitSet adds = new BitSet();

  private record Place(long at, int length) {}

  /**
   * A row that an apply touched.
   *
   * @param before its values before; empty for an added row
   * @param after its values after; empty for a removed row
   */
  public record Touched(
      int change,
      Action action,
      String table,
      Map<String, Value> key,
      Map<String, Value> before,
      Map<String, Value> after) {

    /** The key as a person writes it. */
    public String keyText() {
      return Value.display(key.values());
    }

    /** The same row without some columns. */
    public Touched without(Set<String> columns) {
      return new Touched(
          change, action, table, key, without(before, columns), without(after, columns));
    }

    private static Map<String, Value> without(Map<String, Value> values, Set<String> columns) {
      Map<String, Value> kept = new LinkedHashMap<>(values);
      kept.keySet().removeAll(columns);
      return kept;
    }
  }

  ReceiptRows(ReceiptFile file) throws IOException {
    this(file, Integer.MAX_VALUE);
  }

  /**
   * @param file is closed with the result
   * @param most how many rows at the most; what follows them is passed over
   */
  ReceiptRows(ReceiptFile file, int most) throws IOException {
    this.file = file;
    find(most, (line, complete, index) -> {});
  }

  /**
   * Opens a receipt that is checked while it is read.
   *
   * @param seal takes all lines; what it says of them is asked afterwards
   * @param sink takes the rows, in the order of applying; what it got counts only if the seal holds
   */
  ReceiptRows(ReceiptFile file, SealReading seal, Sink sink) throws IOException {
    this.file = file;
    find(
        Integer.MAX_VALUE,
        (line, complete, index) -> {
          seal.take(line, complete);
          if (index != NO_ROW) {
            sink.take(this, index, written(JsonLines.parse(line).get("after")));
          }
        });
  }

  /** Takes the rows that were written, as the merge settled them. */
  interface Sink {
    void take(ReceiptRows rows, int index, Written row) throws IOException;
  }

  private interface EachLine {
    /**
     * @param index of the row after it was written, if that is what the line tells
     */
    void take(byte[] line, boolean complete, int index) throws IOException;
  }

  private void find(int most, EachLine each) throws IOException {
    try (InputStream in = file.lines()) {
      JsonLines.Lines lines = new JsonLines.Lines(in);
      long at = 0;
      while (!lines.atEnd() && after.size() < most) {
        byte[] line = lines.next();
        if (!lines.isComplete()) {
          // The process was killed while it wrote, and its transaction was rolled back.
          each.take(line, false, NO_ROW);
          break;
        }
        Place place = new Place(at, line.length);
        int index = NO_ROW;
        if (ReceiptFront.begins(line, "{\"before\"")) {
          before.put(JsonLines.numberAtFront(line, "before", "change"), place);
        } else if (ReceiptFront.begins(line, "{\"after\"")
            && ReceiptFront.front(line).contains(OF_FILE)) {
          index = FIRST_FILE - files.size();
          files.add(place);
        } else if (ReceiptFront.begins(line, "{\"after\"")) {
          index = after.size();
          adds.set(index, ReceiptFront.front(line).contains(ADDED));
          after.add(place);
        } else if (ReceiptFront.begins(line, "{\"kept\"")) {
          kept.add(place);
        } else if (ReceiptFront.begins(line, "{\"effect\"")) {
          effects.add(place);
        }
        each.take(line, true, index);
        at += line.length + 1L;
      }
    } catch (IOException | RuntimeException e) {
      file.close();
      throw e;
    }
  }

  /** The places of the added rows. */
  public BitSet adds() {
    return adds;
  }

  public int size() {
    return after.size();
  }

  /**
   * What a merge settled of a row.
   *
   * @param change the number of its change; 0 for a row that both copies had alike
   * @param values the source's, as drafted: all of an added row, of others those that are settled
   * @param answered columns of these that the target kept, as a person decided
   * @param fresh the source's row of which a new one was made
   */
  record Written(
      int change,
      Action action,
      String table,
      Map<String, Value> key,
      Map<String, Value> values,
      Set<String> answered,
      Optional<RowName> fresh) {

    /** The same as if the person had decided nothing. */
    Written unanswered() {
      Map<String, Value> others = new LinkedHashMap<>(values);
      others.keySet().removeAll(answered);
      return new Written(change, action, table, key, others, Set.of(), fresh);
    }
  }

  /** The row at a position as the merge settled it, in the order of applying. */
  Written written(int index) throws IOException {
    Place line = index <= FIRST_FILE ? files.get(FIRST_FILE - index) : after.get(index);
    return written(read(line).get("after"));
  }

  /** How many rows stay as they are on the target, as somebody decided. */
  int keptSize() {
    return kept.size();
  }

  /** One of these rows, as the source has it. */
  Written kept(int index) throws IOException {
    return written(read(kept.get(index)).get("kept"));
  }

  private static Written written(JsonNode row) throws IOException {
    Action action = Action.valueOf(row.get("do").asText().toUpperCase(Locale.ROOT));
    Map<String, Value> values = new LinkedHashMap<>();
    Map<String, Value> all = JsonValues.readMap(row.get("values"));
    if (action == Action.ADD) {
      values.putAll(all);
    }
    for (JsonNode cell : row.path("cells")) {
      Value value = all.get(cell.asText());
      if (value != null) {
        values.put(cell.asText(), value);
      }
    }
    Set<String> answered = new HashSet<>();
    if (row.has("drafted")) {
      Map<String, Value> drafted = JsonValues.readMap(row.get("drafted"));
      // What was not written, though the source had it, is the target's side.
      drafted.keySet().stream().filter(column -> !all.containsKey(column)).forEach(answered::add);
      values.putAll(drafted);
    }
    return new Written(
        row.get("change").asInt(),
        action,
        row.get("table").asText(),
        JsonValues.readMap(row.get("key")),
        values,
        answered,
        Optional.ofNullable(row.get("new")).map(name -> RowName.parse(name.asText())));
  }

  /** The files that were written or removed, in the order of applying. */
  public List<Touched> files() throws IOException {
    List<Touched> all = new ArrayList<>();
    for (Place place : files) {
      all.add(touched(place));
    }
    return all;
  }

  /** The row at a position, in the order of applying; files are no rows. */
  public Touched get(int index) throws IOException {
    return touched(after.get(index));
  }

  private Touched touched(Place line) throws IOException {
    JsonNode row = read(line).get("after");
    int change = row.get("change").asInt();
    Action action = Action.valueOf(row.get("do").asText().toUpperCase(Locale.ROOT));
    Place place = before.get(change);
    Map<String, Value> was =
        place == null ? Map.of() : JsonValues.readMap(read(place).get("before").get("values"));
    Map<String, Value> is = JsonValues.readMap(row.get("values"));
    return new Touched(
        change,
        action,
        row.get("table").asText(),
        JsonValues.readMap(row.get("key")),
        was,
        action == Action.UPDATE ? over(was, is) : is);
  }

  /** An updated row after it: what is not written there is as it was before. */
  private static Map<String, Value> over(Map<String, Value> was, Map<String, Value> is) {
    Map<String, Value> row = new LinkedHashMap<>(was);
    row.putAll(is);
    return row;
  }

  /** The values that followed from the changes. */
  public List<Effect> effects() throws IOException {
    List<Effect> read = new ArrayList<>();
    for (Place place : effects) {
      JsonNode effect = read(place).get("effect");
      read.add(
          new Effect(
              effect.get("table").asText(),
              JsonValues.readMap(effect.get("key")),
              JsonValues.readMap(effect.get("before")),
              JsonValues.readMap(effect.get("after"))));
    }
    return read;
  }

  private JsonNode read(Place place) throws IOException {
    return JsonLines.parse(file.at(place.at(), place.length()));
  }

  @Override
  public void close() throws IOException {
    file.close();
  }
}
