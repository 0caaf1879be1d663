package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.changeset.Answer;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.Conflict;
import weftex.core.changeset.Decision;
import weftex.core.changeset.RowChange;
import weftex.core.site.SiteModel;
import weftex.store.testing.Pair;

/**
 * Random weeks on a pair of which nobody knows what its rows are: they have no identity, and other
 * numbers on each copy. A model of the merge, cell by cell and by a mark that only the test reads,
 * says after each week what live must be.
 */
class RandomWeeksTest {
  private static final String MODEL =
      """
      model: test
      tables:
        things:
          number: id
          references: {parent: {to: things, unset: "0"}}
      """;

  private static final int ROOTS = 5;

  @TempDir Path folder;

  private Pair pair;
  private Random random;
  private int born;

  /** What was merged, by mark: both numbers and the mark of the parent. */
  private Map<String, List<String>> base = new TreeMap<>();

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20})
  void liveIsWhatTheModelSays(int seed) throws Exception {
    random = new Random(seed);
    pair = Pair.create(Pair.Kind.SQLITE, folder, SiteModel.read(MODEL));
    pair.both(
        "CREATE TABLE things (id INTEGER PRIMARY KEY AUTOINCREMENT, mark TEXT NOT NULL, a INT, b INT,"
            + " parent INTEGER NOT NULL)");
    for (int i = 1; i <= 12; i++) {
      pair.both(
          "INSERT INTO things VALUES (%d, 'm%02d', %d, %d, %d)"
              .formatted(i, i, i, i, i <= ROOTS ? 0 : 1 + i % ROOTS));
    }
    pair.mark();
    base = state("live");
    for (int week = 1; week <= 6; week++) {
      week("staging");
      week("live");
      String what = "seed " + seed + ", week " + week;
      Answer answer = random.nextBoolean() ? Answer.SOURCE : Answer.TARGET;
      Map<String, List<String>> before = state("live");
      Map<String, List<String>> baseBefore = new TreeMap<>(base);
      List<RowChange> changes = pair.changes();
      Map<String, List<String>> expected = merged(answer, bound(changes));
      boolean applied = apply(changes, answer, week);
      assertThat(state("live")).as(what).isEqualTo(expected);
      assertThat(pair.changes()).as(what + ", nothing is left to do").isEmpty();
      if (applied && random.nextInt(3) == 0) {
        assertThat(pair.undo(false).leftAlone()).as(what).isEmpty();
        assertThat(state("live")).as(what + ", undone").isEqualTo(before);
        base = baseBefore;
      }
    }
  }

  private Map<String, List<String>> state(String copy) {
    Map<String, List<String>> state = new TreeMap<>();
    for (String row :
        pair.ask(
            copy,
            "SELECT t.mark, t.a, t.b, IFNULL(p.mark, t.parent) FROM things t LEFT JOIN things p ON p.id = t.parent")) {
      String[] part = row.split("\\t");
      assertThat(state.put(part[0], List.of(part[1], part[2], part[3])))
          .as("twice: " + row)
          .isNull();
    }
    return state;
  }

  private void week(String copy) {
    for (int i = 0; i < 8; i++) {
      List<String> marks = new ArrayList<>(state(copy).keySet());
      String some = marks.get(random.nextInt(marks.size()));
      String parent =
          "(SELECT id FROM things WHERE mark = 'm0" + (1 + random.nextInt(ROOTS)) + "')";
      int value = 100 + random.nextInt(9000);
      boolean root = some.compareTo("m0" + ROOTS) <= 0;
      switch (random.nextInt(6)) {
        case 0, 1 ->
            pair.on(
                copy,
                "INSERT INTO things (mark, a, b, parent) VALUES ('n%03d%s', %d, %d, %s)"
                    .formatted(++born, copy.charAt(0), value, value, parent));
        case 2 ->
            pair.on(copy, "UPDATE things SET a = %d WHERE mark = '%s'".formatted(value, some));
        case 3 ->
            pair.on(copy, "UPDATE things SET b = %d WHERE mark = '%s'".formatted(value, some));
        case 4 -> {
          if (!root) {
            pair.on(
                copy, "UPDATE things SET parent = %s WHERE mark = '%s'".formatted(parent, some));
          }
        }
        default -> {
          if (!root) {
            pair.on(copy, "DELETE FROM things WHERE mark = '" + some + "'");
          }
        }
      }
    }
  }

  /** What live is after the merge; moves the base on. */
  private Map<String, List<String>> merged(Answer answer, Set<String> bound) {
    Map<String, List<String>> source = state("staging");
    Map<String, List<String>> live = state("live");
    Set<String> all = new TreeSet<>(source.keySet());
    all.addAll(live.keySet());
    all.addAll(base.keySet());
    for (String mark : all) {
      List<String> b = base.get(mark);
      List<String> s = source.get(mark);
      List<String> l = live.get(mark);
      if (s == null && b != null) {
        if (l != null && (l.equals(b) || answer == Answer.SOURCE)) {
          live.remove(mark);
        }
        base.remove(mark);
      } else if (s != null && l == null && !s.equals(b)) {
        if (b == null || answer == Answer.SOURCE && !bound.contains(mark)) {
          live.put(mark, s);
        }
        base.put(mark, s);
      } else if (s != null && l != null) {
        List<String> now = new ArrayList<>(l);
        for (int i = 0; i < s.size(); i++) {
          boolean changed = !s.get(i).equals(b.get(i));
          if (changed && (l.get(i).equals(b.get(i)) || answer == Answer.SOURCE)) {
            now.set(i, s.get(i));
          }
        }
        live.put(mark, now);
        base.put(mark, s);
      }
    }
    return live;
  }

  /** The marks of rows that can't come back, since live has given their numbers to others. */
  private static Set<String> bound(List<RowChange> changes) {
    Set<String> bound = new TreeSet<>();
    for (RowChange change : changes) {
      if (change.conflicts().stream().anyMatch(Conflict::binding)) {
        bound.add(change.after().get("mark").display());
      }
    }
    return bound;
  }

  /** Merges; whether anything was applied. */
  private boolean apply(List<RowChange> changes, Answer answer, int week) throws Exception {
    if (changes.isEmpty()) {
      return false;
    }
    Path file = pair.draft();
    for (RowChange change : changes) {
      if (!change.conflicts().isEmpty()) {
        boolean bound = change.conflicts().stream().anyMatch(Conflict::binding);
        Decision decision =
            Decision.of(
                List.of(change.id()),
                Optional.empty(),
                bound ? Answer.TARGET : answer,
                "test",
                "week " + week,
                "");
        Files.write(file, ChangeSetWriter.line(decision), StandardOpenOption.APPEND);
      }
    }
    pair.approve(file);
    return pair.apply(file) instanceof ApplyOutcome.Applied;
  }
}
