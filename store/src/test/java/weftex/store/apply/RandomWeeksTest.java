package weftex.store.apply;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.changeset.DecisionLine;
import weftex.core.model.SiteModel;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.testing.Pair;

/**
 * Random weeks on a pair of which nobody knows what its rows are: they have no identity, other
 * numbers on each copy, and refer to each other, in circles, too. Each week one copy is merged into
 * the other. A model of the merge, cell by cell and by a mark that only the test reads, says after
 * each week what the target must be.
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

  static IntStream seeds() {
    int only = Integer.getInteger("seed", 0);
    return only > 0
        ? IntStream.of(only)
        : IntStream.rangeClosed(1, Integer.getInteger("rounds", 30));
  }

  @TempDir Path folder;

  private Pair pair;
  private Random random;
  private int born;
  private String into;
  private String from;

  /** What was merged, by mark: both numbers and the mark of the parent. */
  private Map<String, List<String>> base = new TreeMap<>();

  /** What the target kept although the source removed it: that it comes back is a question. */
  private Set<String> kept = new TreeSet<>();

  @ParameterizedTest
  @MethodSource("seeds")
  void theTargetIsWhatTheModelSays(int seed) throws Exception {
    random = new Random(seed);
    pair = Pair.create(Pair.Kind.SQLITE, folder, SiteModel.read(MODEL));
    if (seed % 10 == 0) {
      pair.sealed();
    }
    pair.both(
        "CREATE TABLE things (id INTEGER PRIMARY KEY AUTOINCREMENT, mark TEXT NOT NULL, a INT, b INT,"
            + " parent INTEGER NOT NULL)");
    for (int i = 1; i <= 12; i++) {
      pair.both(
          "INSERT INTO things VALUES (%d, 'm%02d', %d, %d, %d)"
              .formatted(i, i, i, i, i <= ROOTS ? 0 : 1 + i % ROOTS));
    }
    pair.mark(seed % 2 == 0 ? "live" : "staging");
    base = state("live");
    for (int week = 1; week <= 6; week++) {
      week("staging");
      week("live");
      boolean intoStaging = random.nextInt(3) == 0;
      into = intoStaging ? "staging" : "live";
      from = intoStaging ? "live" : "staging";
      Pair seen = intoStaging ? pair.intoStaging() : pair;
      String what = "seed " + seed + ", week " + week + ", into " + into;
      Answer answer = random.nextBoolean() ? Answer.SOURCE : Answer.TARGET;
      Map<String, List<String>> before = state(into);
      Map<String, List<String>> baseBefore = new TreeMap<>(base);
      Set<String> keptBefore = new TreeSet<>(kept);
      List<RowChange> changes = seen.changes();
      Map<String, List<String>> expected = merged(answer, bound(changes));
      boolean applied = apply(seen, changes, answer, week);
      assertThat(differing(state(into), expected)).as(what).isEmpty();
      assertThat(seen.changes()).as(what + ", nothing is left to do").isEmpty();
      if (applied && random.nextInt(3) == 0) {
        assertThat(seen.undo(false).leftAlone()).as(what).isEmpty();
        assertThat(state(into)).as(what + ", undone").isEqualTo(before);
        base = baseBefore;
        kept = keptBefore;
      }
    }
  }

  /** What is not as expected, by mark. */
  private static List<String> differing(
      Map<String, List<String>> actual, Map<String, List<String>> expected) {
    Set<String> marks = new TreeSet<>(actual.keySet());
    marks.addAll(expected.keySet());
    return marks.stream()
        .filter(mark -> !Objects.equals(actual.get(mark), expected.get(mark)))
        .map(mark -> mark + " is " + actual.get(mark) + " and not " + expected.get(mark))
        .toList();
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
      // What others refer to is never removed.
      List<String> roots = marks.stream().filter(RandomWeeksTest::isRoot).toList();
      String parent =
          "(SELECT id FROM things WHERE mark = '%s')"
              .formatted(roots.get(random.nextInt(roots.size())));
      int value = 100 + random.nextInt(9000);
      boolean root = isRoot(some);
      switch (random.nextInt(6)) {
        case 0, 1 ->
            pair.on(
                copy,
                "INSERT INTO things (mark, a, b, parent) VALUES ('%s%03d%s', %d, %d, %s)"
                    .formatted(
                        random.nextBoolean() ? "n" : "x",
                        ++born,
                        copy.charAt(0),
                        value,
                        value,
                        parent));
        case 2 ->
            pair.on(copy, "UPDATE things SET a = %d WHERE mark = '%s'".formatted(value, some));
        case 3 ->
            pair.on(copy, "UPDATE things SET b = %d WHERE mark = '%s'".formatted(value, some));
        case 4 -> {
          if (some.compareTo("m0" + ROOTS) > 0) {
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

  private static boolean isRoot(String mark) {
    return mark.startsWith("n") || mark.compareTo("m0" + ROOTS) <= 0;
  }

  /** What the target is after the merge; moves the base on. */
  private Map<String, List<String>> merged(Answer answer, Set<String> bound) {
    Map<String, List<String>> source = state(from);
    Map<String, List<String>> target = state(into);
    Set<String> all = new TreeSet<>(source.keySet());
    all.addAll(target.keySet());
    all.addAll(base.keySet());
    for (String mark : all) {
      List<String> b = base.get(mark);
      List<String> s = source.get(mark);
      List<String> t = target.get(mark);
      if (s == null && b != null) {
        if (t != null && (t.equals(b) || answer == Answer.SOURCE)) {
          target.remove(mark);
        } else if (t != null) {
          kept.add(mark);
        }
        base.remove(mark);
      } else if (s != null && t == null && !s.equals(b)) {
        if (b == null && !kept.contains(mark) || answer == Answer.SOURCE && !bound.contains(mark)) {
          target.put(mark, s);
        }
        base.put(mark, s);
      } else if (s != null && t != null) {
        List<String> now = new ArrayList<>(t);
        for (int i = 0; i < s.size(); i++) {
          boolean changed = !s.get(i).equals(b.get(i));
          if (changed && (t.get(i).equals(b.get(i)) || answer == Answer.SOURCE)) {
            now.set(i, s.get(i));
          }
        }
        target.put(mark, now);
        base.put(mark, s);
      }
    }
    return target;
  }

  /** The marks of rows that can't come back, since the target gave their numbers to others. */
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
  private boolean apply(Pair seen, List<RowChange> changes, Answer answer, int week)
      throws Exception {
    if (changes.isEmpty()) {
      return false;
    }
    Path file = seen.draft();
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
        Files.write(file, DecisionLine.of(decision), StandardOpenOption.APPEND);
      }
    }
    seen.approve(file);
    return seen.apply(file) instanceof ApplyOutcome.Applied;
  }
}
