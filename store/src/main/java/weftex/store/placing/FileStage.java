package weftex.store.placing;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.FileAlreadyExistsException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.stream.Stream;
import weftex.core.change.Action;
import weftex.core.file.FileContent;
import weftex.core.file.FileRows;
import weftex.core.file.Sight;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.engine.Drift;
import weftex.store.file.Aside;
import weftex.store.file.Folder;
import weftex.store.file.Hands;
import weftex.store.receipt.ReceiptWriter;

/**
 * The files of a run. Before the transaction they are copied to temporary names beside their
 * places, and new ones put in place: no row names a file that is not there whole. After the commit
 * others are replaced or removed, and the next run does what this one could not. Whatever is
 * overwritten or removed is set aside before.
 */
public final class FileStage {
  private final String copy;
  private final String receipt;
  private final Folder target;
  private final FileSource source;
  private final Aside aside;
  private final FileAccess.Named named;
  private final List<FileStep> steps;
  private final Map<String, List<Sight.Namer>> namers = new HashMap<>();
  private final StageRoom room;

  /**
   * @param receipt the run's
   * @param copy the copy that is written
   * @param site what its tables mean: its rows are asked for a file before that is removed
   */
  public FileStage(
      FileAccess access,
      String receipt,
      Copy copy,
      SiteMap site,
      FileSource source,
      List<FileStep> steps) {
    this.copy = copy.name();
    this.receipt = receipt;
    this.target = access.folders().of(copy.name()).folder();
    this.source = source;
    this.aside = access.aside();
    this.named = access.namedBy(copy, site);
    this.steps = new ArrayList<>(steps);
    this.room = new StageRoom(steps, target);
  }

  /** Files that are not as they must be, which stay as they are. */
  public List<Drift> drifts() throws IOException, Refusal {
    Map<Integer, Drift> drifts = new ConcurrentSkipListMap<>();
    try (Hands<FileHand> hands = hands()) {
      hands.each(
          steps,
          (step, hand) -> {
            String why = moved(step, hand.target());
            if (!why.isEmpty()) {
              drifts.put(steps.indexOf(step), drift(step, why));
            }
          });
    }
    return List.copyOf(drifts.values());
  }

  private Hands<FileHand> hands() throws IOException {
    boolean near = target.isNear() && source.isNear();
    return new Hands<>(new FileHand(target, source), near ? 1 : steps.size(), this::another);
  }

  private Optional<FileHand> another() {
    Optional<Folder> folder = target.beside();
    Optional<FileSource> from = folder.isPresent() ? source.beside() : Optional.empty();
    if (from.isEmpty()) {
      folder.ifPresent(Folder::close);
      return Optional.empty();
    }
    return Optional.of(new FileHand(folder.get(), from.get()));
  }

  /** What happened to a file since it was reviewed; empty if it is as it must be. */
  private String moved(FileStep step, Folder in) throws IOException {
    if (step.action() == Action.ADD) {
      return in.isTaken(step.path()) ? "is there on " + copy + " since" : "";
    }
    Optional<Folder.Entry> now = in.find(step.path());
    if (now.isEmpty()) {
      return "was removed on " + copy + " since";
    }
    return isAs(in, step.path(), now.get(), step.before())
        ? ""
        : "was replaced on " + copy + " since";
  }

  private static Drift drift(FileStep step, String why) {
    return new Drift(step.change(), "file", step.path(), why);
  }

  private static boolean isAs(
      Folder in, String path, Folder.Entry now, Optional<FileContent> content) throws IOException {
    return content.isPresent()
        && now.bytes() == content.get().bytes()
        && in.sha256(path, now.bytes()).equals(content.get().sha256());
  }

  /** Leaves some files as they are. */
  public void leave(List<Drift> drifts) {
    steps.removeIf(step -> drifts.stream().anyMatch(drift -> drift.change() == step.change()));
  }

  /** Looks which rows name the files that are going to be removed. */
  public void findNamers() throws IOException {
    for (FileStep step : steps) {
      if (step.action() == Action.REMOVE) {
        namers.put(step.path(), named.by(step.path()));
      }
    }
  }

  /**
   * Leaves files where they are that other rows name than those that are going to be gone or
   * changed.
   *
   * @param going those
   */
  public List<Drift> leaveNamed(Set<Sight.Namer> going) {
    List<Drift> left = new ArrayList<>();
    for (FileStep step : steps) {
      if (step.action() == Action.REMOVE && !going.containsAll(namers.get(step.path()))) {
        left.add(drift(step, "is named by a row of " + copy));
      }
    }
    leave(left);
    return left;
  }

  public int count(Action action) {
    return (int) steps.stream().filter(step -> step.action() == action).count();
  }

  /** What is going to be done, in the order of the change set. */
  public List<FileStep> steps() {
    return List.copyOf(steps);
  }

  /**
   * Sets aside, copies, and puts new files in place.
   *
   * @throws Refusal if the content is not what was reviewed, or there is no room
   */
  public void prepare(ReceiptWriter writer) throws IOException, Refusal {
    if (steps.isEmpty()) {
      return;
    }
    room.checkRoom();
    Set<String> folders = new HashSet<>();
    for (int i = 0; i < steps.size(); i++) {
      FileStep step =
          steps.get(i).action() == Action.ADD
              ? steps.get(i).making(room.firstMissing(steps.get(i).path(), folders))
              : steps.get(i);
      steps.set(i, step);
      Map<String, Value> key = FileRows.key(step.path());
      if (step.action() != Action.ADD) {
        Instant modified =
            target
                .find(step.path())
                .orElseThrow(() -> new IOException(step.path() + " went away"))
                .modified();
        writer.before(step.change(), FileRows.TABLE, key, step.rowBefore(modified));
      }
      writer.after(
          step.change(),
          step.action(),
          FileRows.TABLE,
          key,
          step.rowAfter(),
          new ReceiptWriter.Merged(
              Optional.empty(),
              step.action() == Action.UPDATE ? List.of(FileRows.CONTENT) : List.of(),
              Map.of()));
    }
    // Whoever finds a temporary file must know whose it is.
    writer.flush();
    stageAll();
  }

  /** Keeps what is replaced, and brings what comes. */
  private void stageAll() throws IOException, Refusal {
    try (Hands<FileHand> hands = hands()) {
      hands.each(
          eachContentOnce(steps.stream().filter(step -> step.before().isPresent())),
          (step, hand) -> {
            try (InputStream in = hand.target().open(step.path())) {
              aside.keep(in, step.before().orElseThrow());
            }
          });
      List<FileStep> coming = steps.stream().filter(step -> step.after().isPresent()).toList();
      hands.each(coming, this::stage);
      check(coming);
      hands.each(
          steps.stream().filter(step -> step.action() == Action.ADD).toList(),
          (step, hand) -> hand.target().rename(temporary(step), step.path()));
    }
  }

  private static List<FileStep> eachContentOnce(Stream<FileStep> steps) {
    Map<String, FileStep> byContent = new LinkedHashMap<>();
    steps.forEach(step -> byContent.putIfAbsent(step.before().orElseThrow().sha256(), step));
    return List.copyOf(byContent.values());
  }

  private void stage(FileStep step, FileHand hand) throws IOException {
    String temporary = temporary(step);
    Optional<String> like =
        step.action() == Action.ADD ? Optional.empty() : Optional.of(step.path());
    Folder.Manner manner = new Folder.Manner(like, step.modified());
    Folder.Opening content = () -> hand.source().open(step);
    try {
      hand.target().create(temporary, content, manner);
    } catch (FileAlreadyExistsException e) {
      // A run that was ended left it, perhaps not whole.
      hand.target().delete(temporary);
      hand.target().create(temporary, content, manner);
    }
  }

  /** Reads back what was copied. */
  private void check(List<FileStep> staged) throws IOException, Refusal {
    List<String> found = target.sha256(staged.stream().map(this::temporary).toList());
    for (int i = 0; i < found.size(); i++) {
      FileStep step = staged.get(i);
      if (!found.get(i).equals(step.after().orElseThrow().sha256())) {
        throw new Refusal(
            Refusal.Kind.UNDECIDED,
            "The file "
                + step.from()
                + " of "
                + source.whose()
                + " is no longer what was reviewed.",
            "Draft again with 'weftex draft --again' and have it approved.");
      }
    }
  }

  private String temporary(FileStep step) {
    String path = step.path();
    return path.substring(0, path.lastIndexOf('/') + 1)
        + Folder.TEMPORARY
        + receipt
        + "-"
        + step.change();
  }

  /**
   * Replaces and removes, after the commit; what was done already stays so.
   *
   * @return what stays as it is, and why
   */
  public List<Drift> finish() throws IOException, Refusal {
    List<Drift> left = new ArrayList<>();
    for (FileStep step : steps) {
      String temporary = temporary(step);
      Optional<Folder.Entry> now = target.find(step.path());
      if (step.action() == Action.REMOVE) {
        if (now.isPresent() && !isAs(target, step.path(), now.get(), step.before())) {
          left.add(drift(step, "was replaced on " + copy + " since"));
        } else if (now.isPresent() && !named.by(step.path()).isEmpty()) {
          left.add(drift(step, "is named by a row of " + copy));
        } else {
          remove(step);
        }
      } else if (step.action() == Action.UPDATE) {
        if (now.isPresent() && isAs(target, step.path(), now.get(), step.after())) {
          target.delete(temporary);
        } else if (now.isPresent() && isAs(target, step.path(), now.get(), step.before())) {
          if (!target.isTaken(temporary)) {
            stage(step, new FileHand(target, source));
            check(List.of(step));
          }
          target.replace(temporary, step.path());
        } else {
          target.delete(temporary);
          left.add(
              drift(step, "was " + (now.isPresent() ? "replaced" : "removed") + " on " + copy));
        }
      } else {
        target.delete(temporary);
      }
    }
    return left;
  }

  private void remove(FileStep step) throws IOException {
    target.delete(step.path());
    if (step.folder().isPresent()) {
      String folder = step.path();
      while (folder.length() > step.folder().get().length()) {
        folder = folder.substring(0, folder.lastIndexOf('/'));
        target.deleteIfEmpty(folder);
      }
    }
  }

  /** Takes away what was put in place or beside it, where no commit follows. */
  public void takeBack() throws IOException {
    for (FileStep step : steps) {
      if (step.after().isPresent()) {
        target.delete(temporary(step));
      }
      if (step.action() == Action.ADD) {
        Optional<Folder.Entry> now = target.find(step.path());
        if (now.isPresent() && isAs(target, step.path(), now.get(), step.after())) {
          remove(step);
        }
        if (now.isEmpty() && step.folder().isPresent()) {
          remove(step);
        }
      }
    }
  }

  /** Says why files could not be put in place. */
  public Refusal refusal(IOException e) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The files could not be brought into " + target.words() + ": " + FailureWords.of(e) + ".",
        "See to that, or leave the files out with 'weftex review --skip'.",
        e);
  }
}
