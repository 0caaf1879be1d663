package weftex.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static weftex.core.file.FileSite.detail;
import static weftex.core.file.FileSite.page;

import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.merge.ConflictKind;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

class FilePlanTest {
  private final FileSite site = new FileSite();
  private final Folders folders = new Folders();

  /** Files by their words: what a file holds is what is said of it. */
  private static final class Folders implements Sight {
    private final Map<String, String> source = new TreeMap<>();
    private final Map<String, String> target = new TreeMap<>();
    private final Map<String, String> known = new TreeMap<>();
    private final Set<String> named = new TreeSet<>();
    private final Map<String, String> sourcePaths = new HashMap<>();

    @Override
    public boolean isOnSource(String path) {
      return source.containsKey(path);
    }

    @Override
    public boolean isOnTarget(String path) {
      return target.containsKey(path);
    }

    @Override
    public boolean isKnown(String path) {
      return known.containsKey(path);
    }

    @Override
    public boolean sourceMoved(String path) {
      return !Objects.equals(source.get(path), known.get(path));
    }

    @Override
    public boolean targetMoved(String path) {
      return !Objects.equals(target.get(path), known.get(path));
    }

    @Override
    public boolean areAlike(String path) {
      return source.get(path).equals(target.get(path));
    }

    @Override
    public FileContent onSource(String path) {
      return content(source.get(path));
    }

    @Override
    public FileContent onTarget(String path) {
      return content(target.get(path));
    }

    private static FileContent content(String words) {
      return new FileContent(String.format("%064x", words.hashCode() & 0xffff), words.length());
    }

    @Override
    public String sourcePath(String path) {
      return sourcePaths.getOrDefault(path, path);
    }

    @Override
    public boolean isFree(String path) {
      return !source.containsKey(path) && !target.containsKey(path);
    }

    @Override
    public List<String> movedOnSource() {
      return List.of();
    }

    @Override
    public boolean isNamedOnTarget(String path, List<Namer> by) {
      return named.contains(path);
    }
  }

  private FilePlan.Files plan(FileChoice choice, RowChange... changes) throws IOException {
    FilePlan plan = new FilePlan(site.site, site.names, folders, choice);
    for (RowChange change : changes) {
      plan.see(change);
    }
    return plan.files(changes.length + 1);
  }

  private FilePlan.Files plan(RowChange... changes) throws IOException {
    return plan(FileChoice.USUAL, changes);
  }

  private static RowChange newPicture(int id) {
    return detail(id, Action.ADD, "file", "", "pier.jpg");
  }

  private static RowChange linking(int id, String... files) {
    return page(id, Action.UPDATE, "before", "/media/" + String.join(" /media/", files));
  }

  private RowChange only(FilePlan.Files files) {
    assertThat(files.changes()).hasSize(1);
    return files.changes().get(0);
  }

  private static List<ConflictKind> kinds(RowChange change) {
    return change.conflicts().stream().map(Conflict::kind).toList();
  }

  @Test
  void aNewFileComesWithTheRowThatNamesItAndOnlyWithIt() throws Exception {
    folders.source.put("media/pier.jpg", "pier");
    RowChange row = newPicture(1);
    RowChange page = linking(2, "pier.jpg");
    RowChange file = only(plan(row, page));
    assertThat(file.id()).isEqualTo(3);
    assertThat(file.action()).isEqualTo(Action.ADD);
    assertThat(file.item().get().words()).isEqualTo("file 'pier.jpg' of picture 'Pier'");
    Review review = new Review();
    List.of(row, page, file).forEach(review::add);
    assertThat(review.standing(3)).isEqualTo(Review.Standing.MADE);
    skip(review, 1);
    assertThat(review.standing(3)).isEqualTo(Review.Standing.MADE);
    skip(review, 2);
    assertThat(review.standing(3)).isEqualTo(Review.Standing.NOTHING);
  }

  private static void skip(Review review, int change) {
    review.add(
        Decision.of(List.of(change), Optional.empty(), Answer.SKIP, "mira", "2026-11-29", ""));
  }

  @Test
  void whatTheSourceDidNotChangeStays() throws Exception {
    folders.known.put("media/pier.jpg", "pier");
    folders.source.put("media/pier.jpg", "pier");
    folders.target.put("media/pier.jpg", "another pier");
    assertThat(plan(linking(1, "pier.jpg")).changes()).isEmpty();
    folders.target.clear();
    // A row that comes names it, and the target lacks it.
    assertThat(only(plan(linking(1, "pier.jpg"))).conflicts()).isEmpty();
  }

  @Test
  void aReplacedFileReplacesAndTwoReplacementsAreAQuestion() throws Exception {
    folders.known.put("media/pier.jpg", "pier");
    folders.source.put("media/pier.jpg", "new pier");
    folders.target.put("media/pier.jpg", "pier");
    RowChange file = only(plan(linking(1, "pier.jpg")));
    assertThat(file.action()).isEqualTo(Action.UPDATE);
    assertThat(FileRows.content(file.after())).contains(Folders.content("new pier"));
    assertThat(FileRows.content(file.before())).contains(Folders.content("pier"));
    folders.target.put("media/pier.jpg", "live pier");
    assertThat(kinds(only(plan(linking(1, "pier.jpg"))))).containsExactly(ConflictKind.BOTH_EDITED);
    folders.target.put("media/pier.jpg", "new pier");
    FilePlan.Files alike = plan(linking(1, "pier.jpg"));
    assertThat(alike.changes()).isEmpty();
    assertThat(alike.alike()).hasSize(1);
    folders.target.clear();
    assertThat(kinds(only(plan(linking(1, "pier.jpg"))))).containsExactly(ConflictKind.EDITED_GONE);
  }

  @Test
  void aFileGoesWithItsThingUnlessAnotherRowNamesIt() throws Exception {
    folders.known.put("media/pier.jpg", "pier");
    folders.target.put("media/pier.jpg", "pier");
    RowChange gone = detail(1, Action.REMOVE, "file", "pier.jpg", "");
    assertThat(only(plan(gone)).action()).isEqualTo(Action.REMOVE);
    folders.named.add("media/pier.jpg");
    assertThat(plan(gone).changes()).isEmpty();
    folders.named.clear();
    assertThat(plan(gone, linking(2, "pier.jpg")).changes()).isEmpty();
    folders.source.put("media/pier.jpg", "pier");
    assertThat(plan(gone).changes()).isEmpty();
    folders.source.clear();
    folders.target.put("media/pier.jpg", "live pier");
    assertThat(kinds(only(plan(gone)))).containsExactly(ConflictKind.GONE_EDITED);
    folders.known.clear();
    assertThat(plan(gone).changes()).isEmpty();
  }

  @Test
  void aNameThatTheTargetGaveToAnotherFileIsLeftToIt() throws Exception {
    folders.source.putAll(Map.of("media/a/pier.jpg", "pier", "media/a/pier-90.jpg", "small"));
    folders.target.putAll(Map.of("media/a/pier.jpg", "live", "media/a/pier-1-90.jpg", "taken"));
    RowChange row = detail(1, Action.ADD, "sizes", "", FileSite.sizes("a/pier.jpg", "pier-90.jpg"));
    assertThat(plan(row).renames())
        .containsOnly(
            Map.entry("media/a/pier.jpg", "media/a/pier-2.jpg"),
            Map.entry("media/a/pier-90.jpg", "media/a/pier-2-90.jpg"));
    // Linked to by a text alone, nobody knows whose it is.
    FilePlan.Files linked = plan(page(1, Action.ADD, "", "/media/a/pier.jpg"));
    assertThat(linked.renames()).isEmpty();
    assertThat(kinds(only(linked))).containsExactly(ConflictKind.BOTH_ADDED);
  }

  @Test
  void aNewThingMayHaveTheNameOfOneThatIsGone() throws Exception {
    RowChange row = detail(1, Action.ADD, "file", "", "pier.jpg");
    RowChange gone = detail(2, Action.REMOVE, "file", "pier.jpg", "");
    folders.known.put("media/pier.jpg", "old pier");
    folders.source.put("media/pier.jpg", "new pier");
    assertThat(only(plan(row)).conflicts()).isEmpty();
    folders.target.put("media/pier.jpg", "old pier");
    // Whether the old one really goes is not decided yet, so it keeps its name.
    assertThat(plan(row, gone).renames()).containsOnlyKeys("media/pier.jpg");
    folders.target.put("media/pier.jpg", "live pier");
    assertThat(plan(row, gone).renames()).containsOnlyKeys("media/pier.jpg");
  }

  @Test
  void underAnotherNameItIsFetchedFromItsOwn() throws Exception {
    folders.source.put("media/pier-1.jpg", "pier");
    folders.sourcePaths.put("media/pier-1.jpg", "media/pier.jpg");
    RowChange file = only(plan(detail(1, Action.ADD, "file", "", "pier-1.jpg")));
    assertThat(file.drafted().get(FileRows.FROM).display()).isEqualTo("media/pier.jpg");
  }

  @Test
  void aNameThatWasGivenBeforeToAThingThatIsGoneIsNotTakenOver() throws Exception {
    // The source's pier.jpg was the target's pier-3.jpg; now the source has a new pier.jpg.
    folders.source.putAll(Map.of("media/pier-3.jpg", "new", "media/pier-300.jpg", "small"));
    folders.sourcePaths.put("media/pier-3.jpg", "media/pier.jpg");
    folders.target.put("media/pier-3.jpg", "old");
    folders.known.put("media/pier-3.jpg", "old");
    RowChange row =
        detail(1, Action.ADD, "sizes", "", FileSite.sizes("pier-3.jpg", "pier-300.jpg"));
    assertThat(plan(row).renames())
        .containsOnly(
            Map.entry("media/pier.jpg", "media/pier-1.jpg"),
            Map.entry("media/pier-300.jpg", "media/pier-1-300.jpg"));
  }

  @Test
  void programsAndWhatIsLeftOutStayWhereTheyAre() throws Exception {
    folders.source.putAll(
        Map.of("media/x.php", "run", "media/cache/a.jpg", "a", "media/b.jpg", "b".repeat(50)));
    RowChange page = page(1, Action.ADD, "", "/media/x.php /media/cache/a.jpg /media/b.jpg");
    FilePlan.Files files = plan(new FileChoice(false, List.of("cache/*"), List.of(), 40), page);
    assertThat(files.changes()).isEmpty();
    assertThat(files.refused().get("media/x.php")).contains("program");
    assertThat(files.refused().get("media/cache/a.jpg")).contains("leaves it out");
    assertThat(files.refused().get("media/b.jpg")).contains("larger");
    assertThat(plan(new FileChoice(false, List.of(), List.of("media/x.php"), 0), page).changes())
        .hasSize(3);
    assertThat(plan(new FileChoice(false, List.of(), List.of("media/*"), 0), page).changes())
        .hasSize(2);
  }

  @Test
  void aFileThatNobodyHasIsNamed() throws Exception {
    assertThat(plan(linking(1, "gone.jpg")).missing()).containsExactly("media/gone.jpg");
  }
}
