package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.stream.IntStream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import weftex.core.change.RowChange;
import weftex.core.decide.TakingBack;
import weftex.core.model.SiteModel;
import weftex.store.engine.Drift;
import weftex.store.testing.Pair;

/** Some changes of an apply are taken back, and the base moves back for just these. */
class UndoOfChosenTest {
  private static final String MODEL =
      """
      model: test
      tables:
        pages:
          number: id
          item: {kind: page, name: [title]}
          references: {parent: {to: pages, unset: "0"}}
        details:
          number: id
          part-of: page
          word: detail
          references: {page: {to: pages}}
      """;

  @TempDir Path folder;

  private Pair site(Pair.Kind kind) throws Exception {
    Pair pair = Pair.create(kind, folder, SiteModel.read(MODEL));
    String number =
        kind == Pair.Kind.SQLITE
            ? "id INTEGER PRIMARY KEY AUTOINCREMENT"
            : "id INT AUTO_INCREMENT PRIMARY KEY";
    pair.both(
        "CREATE TABLE pages (" + number + ", title VARCHAR(30), body VARCHAR(30), parent INT)",
        "CREATE TABLE details (" + number + ", page INT, value VARCHAR(30))",
        "INSERT INTO pages VALUES (1, 'Home', 'a', 0), (2, 'Fares', 'b', 0), (3, 'Old', 'c', 1)",
        "INSERT INTO details VALUES (1, 2, 'x'), (2, 3, 'y')");
    pair.mark();
    pair.on("live", "INSERT INTO pages VALUES (4, 'Storm', 's', 0)");
    pair.on(
        "staging",
        "INSERT INTO pages VALUES (4, 'Winter', 'w', 0), (5, 'Snow', 'n', 4)",
        "INSERT INTO details VALUES (3, 4, 'cold'), (4, 5, 'white')",
        "UPDATE pages SET body = 'new' WHERE id IN (1, 2)",
        "DELETE FROM details WHERE id = 2",
        "DELETE FROM pages WHERE id = 3");
    return pair;
  }

  private static List<String> all(Pair pair) {
    List<String> all =
        new java.util.ArrayList<>(pair.ask("live", "SELECT * FROM pages ORDER BY id"));
    all.addAll(pair.ask("live", "SELECT * FROM details ORDER BY id"));
    return all;
  }

  /** What is left to do, without numbers that are given anew. */
  private static List<String> open(Pair pair) throws Exception {
    return pair.changes().stream()
        .map(c -> c.action().label() + " " + c.thing().words())
        .sorted()
        .toList();
  }

  private static Set<Integer> chosen(List<RowChange> changes, Predicate<RowChange> wanted) {
    TakingBack taking = new TakingBack();
    changes.forEach(taking::see);
    return taking.of(changes.stream().filter(wanted).map(RowChange::id).toList());
  }

  private static UndoOutcome undo(Pair pair, Set<Integer> changes) throws Exception {
    return pair.undo(new Undoer.Terms(false, false, Optional.of(changes)));
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void aThingGoesWithItsPartsAndWithWhatNeedsIt(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    List<String> before = all(pair);
    List<String> toDo = open(pair);
    List<RowChange> changes = pair.changes();
    pair.apply(pair.approvedDraft());
    assertThat(pair.changes()).isEmpty();

    Set<Integer> winter = chosen(changes, c -> c.thing().name().equals("Winter"));
    assertThat(winter).as("page, detail, child and its detail").hasSize(4);
    assertThat(undo(pair, winter).leftAlone()).isEmpty();
    assertThat(pair.ask("live", "SELECT title, body FROM pages ORDER BY id"))
        .containsExactly("Home\tnew", "Fares\tnew", "Storm\ts");
    assertThat(open(pair))
        .containsExactly(
            "add detail of page 'Snow'",
            "add detail of page 'Winter'",
            "add page 'Snow'",
            "add page 'Winter'");

    Set<Integer> old = chosen(changes, c -> c.thing().words().equals("detail of page 'Old'"));
    assertThat(old).as("no detail without its page").hasSize(2);
    assertThat(undo(pair, old).broughtBack()).isEqualTo(2);
    assertThat(undo(pair, old).receipt()).as("a second time").isEmpty();
    assertThat(pair.undo(false).leftAlone()).isEmpty();
    assertThat(all(pair)).isEqualTo(before);
    assertThat(open(pair)).isEqualTo(toDo);
  }

  @ParameterizedTest
  @EnumSource(names = {"SQLITE", "MARIADB"})
  void whatLiveUsesSinceStaysAndIsNamed(Pair.Kind kind) throws Exception {
    Pair pair = site(kind);
    List<RowChange> changes = pair.changes();
    pair.apply(pair.approvedDraft());
    String winter = pair.ask("live", "SELECT id FROM pages WHERE title = 'Winter'").get(0);
    pair.on("live", "INSERT INTO pages VALUES (90, 'Ice', 'i', " + winter + ")");
    UndoOutcome outcome = undo(pair, chosen(changes, c -> c.thing().name().equals("Winter")));
    assertThat(outcome.leftAlone())
        .extracting(Drift::what)
        .contains("is in use: 1 row of pages hangs on it");
    assertThat(pair.ask("live", "SELECT title FROM pages WHERE id > 3"))
        .as("with its parts")
        .containsExactlyInAnyOrder("Storm", "Winter", "Snow", "Ice");
  }

  static IntStream seeds() {
    return IntStream.rangeClosed(1, 8);
  }

  /** In whatever parts and order an apply is taken back, in the end all is as before. */
  @ParameterizedTest
  @MethodSource("seeds")
  void allPartsAreTheWhole(int seed) throws Exception {
    Random random = new Random(seed);
    Pair pair = site(Pair.Kind.SQLITE);
    List<String> before = all(pair);
    List<String> toDo = open(pair);
    List<RowChange> changes = pair.changes();
    pair.apply(pair.approvedDraft());
    Set<Integer> left =
        new TreeSet<>(
            changes.stream().map(RowChange::id).sorted(Comparator.naturalOrder()).toList());
    while (!left.isEmpty()) {
      int pick = List.copyOf(left).get(random.nextInt(left.size()));
      Set<Integer> chosen = chosen(changes, c -> c.id() == pick);
      assertThat(undo(pair, chosen).leftAlone()).isEmpty();
      left.removeAll(chosen);
      Set<String> missing = new TreeSet<>(open(pair));
      assertThat(toDo).containsAll(missing);
    }
    assertThat(all(pair)).isEqualTo(before);
    assertThat(open(pair)).isEqualTo(toDo);
  }
}
