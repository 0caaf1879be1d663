package weftex.core.derive;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;

class ModelDeriverTest {
  private static final Table PAGES =
      table("pages", "id", "parent_id", "slug", "title", "updated_at", "guid", "comment_count");
  private static final Table DETAILS = table("page_details", "id", "page_id", "value");
  private static final Table COMMENTS = table("comments", "id", "page_id", "stars_id");
  private static final Table CACHE = table("http_cache", "id", "value");

  private static Table table(String name, String... columns) {
    List<Column> shapes =
        List.of(columns).stream()
            .map(
                c ->
                    new Column(
                        c,
                        c.endsWith("id") && !c.equals("guid") || c.endsWith("count")
                            ? ValueKind.WHOLE
                            : ValueKind.TEXT,
                        "x",
                        0,
                        true,
                        false,
                        false))
            .toList();
    return new Table(name, shapes, List.of(0), 0, List.of(), List.of());
  }

  /** Rows in memory, asked as a database would be. */
  private static final class Rows implements Evidence {
    private final Map<String, List<List<Object>>> rows = new HashMap<>();

    void add(Table table, Object... cells) {
      rows.computeIfAbsent(table.name(), unused -> new ArrayList<>()).add(List.of(cells));
    }

    private List<Object> column(Table table, int column) {
      return rows.getOrDefault(table.name(), List.of()).stream().map(r -> r.get(column)).toList();
    }

    @Override
    public Share keysOf(Table table, int column, Table target) {
      List<Object> own =
          column(table, column).stream().filter(v -> !v.equals(0)).distinct().toList();
      long zero = column(table, column).stream().filter(v -> v.equals(0)).count();
      return new Share(own.size(), own.stream().filter(column(target, 0)::contains).count(), zero);
    }

    @Override
    public Kinds kindsOf(Table table, int column, Table target, int kind) {
      List<List<Object>> all = rows.getOrDefault(target.name(), List.of());
      List<Object> kinds =
          all.stream()
              .filter(row -> column(table, column).contains(row.get(0)))
              .map(row -> row.get(kind))
              .toList();
      long ofKind = all.stream().filter(row -> kinds.contains(row.get(kind))).count();
      return new HashSet<>(kinds).size() == 1
          ? new Kinds(kinds.get(0).toString(), kinds.size(), ofKind, all.size())
          : new Kinds("", 0, 0, 0);
    }

    @Override
    public Share distinct(Table table, int column) {
      List<Object> own = column(table, column);
      return new Share(own.size(), new HashSet<>(own).size(), 0);
    }

    @Override
    public Share counts(Table table, int column, Table of, int by) {
      List<List<Object>> own =
          rows.get(table.name()).stream().filter(r -> !r.get(column).equals(0)).toList();
      long right =
          own.stream()
              .filter(
                  r ->
                      column(of, by).stream().filter(v -> v.equals(r.get(0))).count()
                          == (int) r.get(column))
              .count();
      return new Share(own.size(), right, 0);
    }

    @Override
    public List<String> values(Table table, int column) {
      return column(table, column).stream().map(String::valueOf).distinct().toList();
    }

    @Override
    public boolean has(Table table, int column, String value) {
      return column(table, column).contains(value);
    }

    @Override
    public Share keysAmong(Collection<BigInteger> numbers, Table target) {
      List<Object> keys = column(target, 0);
      return new Share(
          numbers.size(), numbers.stream().filter(n -> keys.contains(n.intValue())).count(), 0);
    }

    @Override
    public double density(Table table) {
      List<Object> keys = column(table, 0);
      return keys.isEmpty()
          ? 1
          : (double) keys.size() / keys.stream().mapToInt(k -> (int) k).max().orElse(1);
    }

    @Override
    public List<Structured> structured(Table table, int column, Optional<Integer> naming) {
      return rows.getOrDefault(table.name(), List.of()).stream()
          .map(
              row ->
                  new Structured(
                      naming.map(i -> row.get(i).toString()).orElse(""),
                      row.get(column).toString()))
          .toList();
    }

    @Override
    public List<String> sample(Table table, int column) {
      return column(table, column).stream().map(String::valueOf).toList();
    }
  }

  private static Rows rows() {
    Rows rows = new Rows();
    IntStream.rangeClosed(1, 10)
        .forEach(
            i -> {
              rows.add(PAGES, i, i > 5 ? 1 : 0, "slug-" + i, "Same", "t", "g" + i, i <= 3 ? 1 : 0);
              rows.add(DETAILS, i, i, "a:1:{i:0;s:1:\"x\";}");
              rows.add(CACHE, i, "x");
            });
    IntStream.rangeClosed(1, 3).forEach(i -> rows.add(COMMENTS, i, i, 77));
    return rows;
  }

  private static List<String> guessed(Table table) throws Exception {
    return new ModelDeriver(List.of(PAGES, DETAILS, COMMENTS, CACHE), SiteModel.PLAIN, rows())
        .derive(table).rules().stream()
            .map(g -> g.key() + " " + g.entry() + " # " + g.why())
            .toList();
  }

  @Test
  void numbersIdentitiesReferencesAndCountersAreGuessedWithTheirEvidence() throws Exception {
    assertThat(guessed(PAGES))
        .contains(
            "identity [slug] # all 10 values differ",
            "references parent_id: {to: pages, unset: \"0\"} # 100.0 % of 1 values exist in pages.id",
            "columns updated_at: newer # a time of change, by its name",
            "permanent [guid] # an identifier for the outside world, by its name",
            "counters comment_count: {of: comments, by: page_id} # it equals the rows of comments in"
                + " 100.0 % of rows");
  }

  @Test
  void aDetailBelongsToThePageThatItsTableIsNamedAfter() throws Exception {
    assertThat(guessed(DETAILS))
        .contains(
            "references page_id: {to: pages} # 100.0 % of 10 values exist in pages.id",
            "part-of page_id # the table's name begins like pages")
        .anyMatch(line -> line.contains("value holds serialised values (10 of 10"));
  }

  @Test
  void whatDoesNotExistElsewhereIsNoReferenceAndNamesTellOwnership() throws Exception {
    assertThat(guessed(COMMENTS))
        .noneMatch(line -> line.contains("stars_id"))
        .anyMatch(line -> line.startsWith("role live"));
    assertThat(guessed(CACHE)).anyMatch(line -> line.startsWith("role noise"));
  }

  @Test
  void aWrittenGuessIsAModelThatCanBeRead() throws Exception {
    ModelDeriver deriver =
        new ModelDeriver(List.of(PAGES, DETAILS, COMMENTS, CACHE), SiteModel.PLAIN, rows());
    List<DerivedTable> derived = new ArrayList<>();
    for (Table table : List.of(PAGES, DETAILS, COMMENTS, CACHE)) {
      derived.add(deriver.derive(table));
    }
    SiteModel model =
        SiteModel.readBuiltIn("wordpress")
            .extendedBy(SiteModel.read(ModelText.write("shop", "wordpress", derived)));
    assertThat(model.model()).isEqualTo("shop");
    assertThat(model.rule("pages").references()).containsKey("parent_id");
    assertThat(model.rule("page_details").part().of()).isEqualTo("page_id");
    // What the built-in model says is still there.
    assertThat(model.rule("posts").number()).isEqualTo("ID");
  }

  private static final Table SETTINGS = table("settings", "id", "name", "value");

  private static List<DerivedTable.Guess> inside(SiteModel model, Object... settings)
      throws Exception {
    Rows rows = rows();
    for (int i = 0; i < settings.length; i += 2) {
      rows.add(SETTINGS, i + 1, settings[i], settings[i + 1]);
    }
    // Only every hundredth ID is one of a comment.
    IntStream.rangeClosed(1, 9).forEach(i -> rows.add(COMMENTS, i * 100, 1, 1));
    return new ModelDeriver(List.of(PAGES, DETAILS, COMMENTS, CACHE, SETTINGS), model, rows)
        .deriveInside(SETTINGS)
        .rules();
  }

  @Test
  void membersOfSettingsAreGuessedFromNameAndValues() throws Exception {
    List<DerivedTable.Guess> guesses =
        inside(
            SiteModel.PLAIN,
            "teaser",
            "{\"cards\":[{\"page_id\":3,\"width\":8},{\"page_id\":7,\"width\":300}],\"pageId\":\"4\"}",
            "gone",
            "{\"page_id\":77}",
            "talk",
            "{\"top\":[100,300,900],\"pages\":[3,4],\"comments\":100}");
    assertThat(guesses)
        .extracting(guess -> guess.key() + " " + guess.entry() + " # " + guess.why())
        .containsExactly(
            "inside:value - {when: {name: \"teaser\"}, refers: [{path: \"cards.*.page_id\", to:"
                + " pages}]} # certain: by its name, and 2 of 2 values are IDs of pages",
            "inside:value - {when: {name: \"teaser\"}, refers: [{path: \"pageId\", to: pages}]} #"
                + " likely: by its name, and 1 of 1 value is an ID of pages",
            "inside:value # - {when: {name: \"talk\"}, refers: [{path: \"top.*\", to: comments}]} #"
                + " possible: 3 of 3 values are IDs of comments",
            "inside:value - {when: {name: \"talk\"}, refers: [{path: \"pages.*\", to: pages}]} #"
                + " certain: by its name, and 2 of 2 values are IDs of pages");
  }

  @Test
  void aColumnThatIsAListMayBeCalledAsWhatIsInIt() throws Exception {
    Table tours = table("tours", "id", "pages");
    Rows rows = rows();
    rows.add(tours, 1, "[3,4]");
    assertThat(
            new ModelDeriver(List.of(PAGES, tours), SiteModel.PLAIN, rows)
                .deriveInside(tours)
                .rules())
        .extracting(DerivedTable.Guess::entry)
        .containsExactly("- {refers: [{path: \"*\", to: pages}]}");
  }

  @Test
  void whatAModelSaysAlreadyOrLeavesAloneIsNotGuessed() throws Exception {
    SiteModel model =
        SiteModel.read(
            """
            model: test
            tables:
              pages: {}
              settings:
                rows: [{when: {name: ["cache_*"]}, role: noise}]
                inside: {value: [{when: {name: [teaser]}, refers: [{path: "cards.*.page_id", to: pages}]}]}
            """);
    assertThat(
            inside(
                model,
                "teaser",
                "{\"cards\":[{\"page_id\":3},{\"page_id\":7}]}",
                "cache_a",
                "{\"page_id\":3}"))
        .isEmpty();
  }

  @Test
  void whatIsOnlyPossibleIsWrittenAsARemark() throws Exception {
    DerivedTable table =
        new DerivedTable(
            "settings",
            inside(SiteModel.PLAIN, "talk", "[100,300,900]", "a", "{\"page_id\":[3,4]}"));
    String text = ModelText.write("site", "", List.of(table));
    assertThat(text)
        .contains(
            "    inside:\n      value:\n",
            "        # possible: 3 of 3 values are IDs of comments\n        # - {when: {name: \"talk\"}");
    SiteModel read = SiteModel.read(text);
    assertThat(read.rule("settings").contents().inside().get("value")).hasSize(1);
  }
}
