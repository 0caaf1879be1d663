package weftex.core.moving;

import java.io.IOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.compare.Comparison;
import weftex.core.match.Matching;
import weftex.core.match.Newcomer;
import weftex.core.model.ColumnRule;
import weftex.core.reference.NumberPlaces;
import weftex.core.row.RowPacking;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.TableModel;
import weftex.core.value.Place;
import weftex.core.value.Rewriting;
import weftex.core.value.Weaver;

/**
 * Looks into the values that move: for what is malformed, and for numbers of renumbered rows where
 * no rule declares a reference.
 */
public final class MovingValues {
  private static final int LISTED = 100;
  private static final int WORDS_AROUND = 24;

  /**
   * A number that is an argument, a part of a name or a link, not a word of a sentence or a time.
   */
  private static final Pattern IN_TEXT =
      Pattern.compile("(?<=[\"'=:,\\[(/_-])(?<!\\d[:.-])\\d+(?=[\"'&,\\])}/>_;#?-]|$)(?![:.-]\\d)");

  private static final Pattern DIGITS = Pattern.compile("\\d{1,20}");

  private final Comparison comparison;
  private final Matching matching;
  private final Map<String, String> changing = new HashMap<>();
  private final List<Suspicion> suspicions = new ArrayList<>();
  private final List<Suspicion> followed = new ArrayList<>();
  private final List<Malformed> malformed = new ArrayList<>();

  /** The packed keys of rows, by table: equal bytes are equal values. */
  private final Map<Integer, Set<SortKey>> moving = new HashMap<>();

  /** Says whether a row that the source added is going to be added to the target. */
  public interface Movers {
    public boolean moves(Newcomer newcomer);
  }

  public MovingValues(Comparison comparison, Matching matching, Movers movers) throws IOException {
    this.comparison = comparison;
    this.matching = matching;
    for (Newcomer newcomer : matching.newcomers().all()) {
      TableModel model = comparison.tables().get(newcomer.table);
      Table table = model.table();
      boolean referredTo = table.isNumbered() && model.parts().of().isEmpty();
      boolean there = matching.fates().of(newcomer) instanceof Newcomer.Matched;
      if (referredTo && (there || movers.moves(newcomer))) {
        Value own = comparison.log().read(newcomer.at).source().values().get(table.number());
        if (getsAnother(table, newcomer, own)) {
          changing.merge(
              own.display(), table.name() + " " + own.display(), (a, b) -> a + " or " + b);
        }
      }
    }
  }

  private boolean getsAnother(Table table, Newcomer newcomer, Value own) throws IOException {
    Newcomer.Fate fate = matching.fates().of(newcomer);
    if (fate instanceof Newcomer.Numbered numbered) {
      return numbered.renumbered();
    }
    return fate instanceof Newcomer.Matched matched
        && !matched.row().values().get(table.number()).equals(own);
  }

  /**
   * Looks at the columns of a row that move.
   *
   * @param raw the row as it is on the source
   */
  public void look(int table, List<Value> raw, Set<Integer> columns) throws IOException {
    TableModel model = comparison.tables().get(table);
    moving
        .computeIfAbsent(table, unused -> new HashSet<>())
        .add(packed(Table.pick(raw, model.table().key())));
    Set<Integer> declared = new HashSet<>(model.leftAlone());
    model.references().forEach(reference -> declared.addAll(reference.columns()));
    Map<Integer, NumberPlaces> inside = matching.inside(table, raw);
    for (int column : columns) {
      if (!declared.contains(column)
          && model.handling().columns().get(column) != ColumnRule.PLAIN) {
        Optional<NumberPlaces> places = Optional.ofNullable(inside.get(column));
        look(model, raw, column, places);
      }
    }
    Map<Integer, NumberPlaces> ofModel = matching.inside(table, raw, false);
    matching
        .inside(table, raw, true)
        .forEach(
            (column, guessed) -> {
              if (columns.contains(column) && raw.get(column) instanceof Value.Text text) {
                follow(
                    model,
                    raw,
                    column,
                    guessed,
                    blotted(Optional.ofNullable(ofModel.get(column)), text));
              }
            });
  }

  /** Notes the numbers that follow a row because of the name of the member that they stand in. */
  private void follow(
      TableModel model, List<Value> raw, int column, NumberPlaces guessed, byte[] value) {
    guessed.rewrite(
        value,
        (to, number) -> {
          String row = changing.getOrDefault(number.toString(), "");
          if (List.of(row.split(" or ")).contains(to + " " + number) && followed.size() < LISTED) {
            followed.add(
                new Suspicion(
                    model.table().name(),
                    key(model.table(), raw),
                    model.table().columns().get(column).name(),
                    "",
                    number.toString(),
                    to + " " + number,
                    ""));
          }
          return Optional.empty();
        });
  }

  /** A value without the numbers that are declared. */
  private static byte[] blotted(Optional<NumberPlaces> declared, Value.Text text) {
    return declared
        .flatMap(
            p -> p.rewrite(text.utf8(), (to, number) -> Optional.of(Weaver.of(new byte[] {'0'}))))
        .map(Weaver::bytes)
        .orElse(text.utf8());
  }

  private void look(TableModel model, List<Value> raw, int column, Optional<NumberPlaces> places) {
    Table table = model.table();
    Value value = raw.get(column);
    if (value instanceof Value.Whole whole) {
      note(
          table,
          raw,
          column,
          "",
          whole.number(),
          "references: {" + table.columns().get(column).name() + ": {to: %s}}");
    }
    if (!(value instanceof Value.Text text)) {
      return;
    }
    // What is declared is blotted out; whatever is left is not.
    byte[] rest = blotted(places, text);
    Rewriting.rewrite(rest, model.contents().format(column, raw), new Look(table, raw, column));
  }

  /** Passes over a value of a row. */
  private final class Look implements Rewriting.Visitor {
    private final Table table;
    private final List<Value> raw;
    private final int column;

    Look(Table table, List<Value> raw, int column) {
      this.table = table;
      this.raw = raw;
      this.column = column;
    }

    @Override
    public boolean mayTouch(byte[] bytes) {
      return true;
    }

    @Override
    public Optional<Weaver> text(Place place, byte[] bytes) {
      inText(table, raw, column, place, new String(bytes, StandardCharsets.ISO_8859_1));
      return Optional.empty();
    }

    @Override
    public void malformed(int offset, String what) {
      if (malformed.size() < LISTED) {
        malformed.add(
            new Malformed(
                table.name(), key(table, raw), table.columns().get(column).name(), offset, what));
      }
    }

    @Override
    public Optional<Weaver> number(Place place, byte[] digits) {
      String number = new String(digits, StandardCharsets.US_ASCII);
      boolean listKey = place.isKey() && number.length() < 3;
      if (!listKey && DIGITS.matcher(number).matches()) {
        note(
            table,
            raw,
            column,
            place.toString(),
            new BigInteger(number),
            rule(table, column, place));
      }
      return Optional.empty();
    }
  }

  private void inText(Table table, List<Value> raw, int column, Place place, String text) {
    if (DIGITS.matcher(text).matches()) {
      note(table, raw, column, place.toString(), new BigInteger(text), rule(table, column, place));
      return;
    }
    Matcher number = IN_TEXT.matcher(text);
    while (number.find()) {
      if (changing.containsKey(number.group())) {
        int from = Math.max(0, number.start() - WORDS_AROUND);
        int to = Math.min(text.length(), number.end() + WORDS_AROUND);
        String around =
            new String(
                text.substring(from, to).getBytes(StandardCharsets.ISO_8859_1),
                StandardCharsets.UTF_8);
        String path = place.toString();
        note(
            table,
            raw,
            column,
            (path.isEmpty() ? "" : path + ": ") + "…" + around.strip() + "…",
            new BigInteger(number.group()),
            "");
      }
    }
  }

  /** The rule that would declare a place; an index of a list stands for any. */
  private static String rule(Table table, int column, Place place) {
    List<String> path = new ArrayList<>(place.path());
    if (place.isKey()) {
      path.remove(path.size() - 1);
    }
    path.replaceAll(key -> DIGITS.matcher(key).matches() ? "*" : key);
    String at = path.isEmpty() ? "" : "path: \"" + String.join(".", path) + "\", ";
    return "inside: {"
        + table.columns().get(column).name()
        + ": [{refers: [{"
        + at
        + (place.isKey() ? "keys: true, " : "")
        + "to: %s}]}]}";
  }

  private void note(
      Table table, List<Value> raw, int column, String place, BigInteger number, String rule) {
    String row = changing.get(number.toString());
    if (row != null && suspicions.size() < LISTED) {
      suspicions.add(
          new Suspicion(
              table.name(),
              key(table, raw),
              table.columns().get(column).name(),
              place,
              number.toString(),
              row,
              rule.replace("%s", row.substring(0, row.indexOf(' ')))));
    }
  }

  private static String key(Table table, List<Value> raw) {
    return String.join(", ", Table.pick(raw, table.key()).stream().map(Value::display).toList());
  }

  private static SortKey packed(List<Value> key) {
    return new SortKey(RowPacking.pack(key));
  }

  /** Whether a row of the source moves. */
  public boolean moves(int table, List<Value> key) {
    return moving.getOrDefault(table, Set.of()).contains(packed(key));
  }

  public List<Suspicion> suspicions() {
    return List.copyOf(suspicions);
  }

  public List<Suspicion> followed() {
    return List.copyOf(followed);
  }

  public List<Malformed> malformed() {
    return List.copyOf(malformed);
  }
}
