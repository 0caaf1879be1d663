package weftex.store.apply;

import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.file.FileContent;
import weftex.core.file.FileRows;
import weftex.core.file.Sight;
import weftex.core.row.Value;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.file.Aside;
import weftex.store.file.Folder;
import weftex.store.receipt.ReceiptWriter;

/**
 * The files of a run. Before the transaction they are copied to temporary names beside their
 * places, and new ones put in place: no row names a file that is not there whole. After the commit
 * others are replaced or removed, and the next run does what this one could not. Whatever is
 * overwritten or removed is set aside before.
 */
final class FileStage {
  private final String copy;
  private final String receipt;
  private final Folder target;
  private final Content content;
  private final Aside aside;
  private final FileAccess.Named named;
  private final List<FileStep> steps;
  private final Map<String, List<Sight.Namer>> namers = new HashMap<>();

  /** Where the content of what comes is. */
  interface Content {
    InputStream open(FileStep step) throws IOException;

    /** In words, such as the source's name. */
    String whose();

    /** The files of a copy. */
    static Content of(Folder folder, String copy) {
      return new Content() {
        @Override
        public InputStream open(FileStep step) throws IOException {
          return folder.open(step.from());
        }

        @Override
        public String whose() {
          return copy;
        }
      };
    }

    /** What was set aside. */
    static Content of(Aside aside) {
      return new Content() {
        @Override
        public InputStream open(FileStep step) throws IOException {
          return aside.open(step.after().orElseThrow());
        }

        @Override
        public String whose() {
          return "what was set aside";
        }
      };
    }
  }

  /**
   * @param copy the name of the copy that is written
   * @param receipt the run's
   * @param named whether rows name a file, asked before it is removed
   */
  FileStage(
      String copy,
      String receipt,
      Folder target,
      Content content,
      Aside aside,
      FileAccess.Named named,
      List<FileStep> steps) {
    this.copy = copy;
    this.receipt = receipt;
    this.target = target;
    this.content = content;
    this.aside = aside;
    this.named = named;
    this.steps = new ArrayList<>(steps);
  }

  /** Files that are not as they must be, which stay as they are. */
  List<Drift> drifts() throws IOException {
    List<Drift> drifts = new ArrayList<>();
    for (FileStep step : steps) {
      Optional<Folder.Entry> now = target.find(step.path());
      String why = "";
      if (step.action() == Action.ADD) {
        why = target.isTaken(step.path()) ? "is there on " + copy + " since" : "";
      } else if (now.isEmpty()) {
        why = "was removed on " + copy + " since";
      } else if (!isAs(step.path(), now.get(), step.before())) {
        why = "was replaced on " + copy + " since";
      }
      if (!why.isEmpty()) {
        drifts.add(drift(step, why));
      }
    }
    return drifts;
  }

  private static Drift drift(FileStep step, String why) {
    return new Drift(step.change(), "file", step.path(), why);
  }

  private boolean isAs(String path, Folder.Entry now, Optional<FileContent> content)
      throws IOException {
    return content.isPresent()
        && now.bytes() == content.get().bytes()
        && target.sha256(path, now.bytes()).equals(content.get().sha256());
  }

  /** Leaves some files as they are. */
  void leave(List<Drift> drifts) {
    steps.removeIf(step -> drifts.stream().anyMatch(drift -> drift.change() == step.change()));
  }

  /** Looks which rows name the files that are going to be removed. */
  void findNamers() throws IOException {
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
  List<Drift> leaveNamed(Set<Sight.Namer> going) {
    List<Drift> left = new ArrayList<>();
    for (FileStep step : steps) {
      if (step.action() == Action.REMOVE && !going.containsAll(namers.get(step.path()))) {
        left.add(drift(step, "is named by a row of " + copy));
      }
    }
    leave(left);
    return left;
  }

  int count(Action action) {
    return (int) steps.stream().filter(step -> step.action() == action).count();
  }

  /** What is going to be done, in the order of the change set. */
  List<FileStep> steps() {
    return List.copyOf(steps);
  }

  /**
   * Sets aside, copies, and puts new files in place.
   *
   * @throws Refusal if the content is not what was reviewed, or there is no room
   */
  void prepare(ReceiptWriter writer) throws IOException, Refusal {
    if (steps.isEmpty()) {
      return;
    }
    checkRoom();
    for (int i = 0; i < steps.size(); i++) {
      FileStep step =
          steps.get(i).action() == Action.ADD
              ? steps.get(i).making(firstMissing(steps.get(i).path()))
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
          Optional.empty(),
          new ReceiptWriter.Merged(
              step.action() == Action.UPDATE ? List.of(FileRows.CONTENT) : List.of(), Map.of()));
    }
    // Whoever finds a temporary file must know whose it is.
    writer.flush();
    for (FileStep step : steps) {
      if (step.action() != Action.ADD) {
        try (InputStream in = target.open(step.path())) {
          aside.keep(in, step.before().orElseThrow());
        }
      }
    }
    for (FileStep step : steps) {
      if (step.after().isPresent()) {
        stage(step);
      }
    }
    for (FileStep step : steps) {
      if (step.action() == Action.ADD) {
        target.rename(temporary(step), step.path());
      }
    }
  }

  private void checkRoom() throws IOException, Refusal {
    long needed = steps.stream().mapToLong(s -> s.after().map(FileContent::bytes).orElse(0L)).sum();
    long room = target.room().orElse(Long.MAX_VALUE);
    if (needed > room) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "There is no room for the files in "
              + target.words()
              + ": they need "
              + needed
              + " bytes, and "
              + room
              + " are free.",
          "Make room, or leave the files out with 'weftex review --skip'.");
    }
  }

  private Optional<String> firstMissing(String path) throws IOException {
    for (int at = path.indexOf('/'); at >= 0; at = path.indexOf('/', at + 1)) {
      String folder = path.substring(0, at);
      if (!target.isTaken(folder)) {
        return Optional.of(folder);
      }
    }
    return Optional.empty();
  }

  private void stage(FileStep step) throws IOException, Refusal {
    FileContent wanted = step.after().orElseThrow();
    String temporary = temporary(step);
    target.delete(temporary);
    target.create(temporary, () -> content.open(step), step.path());
    String found = target.sha256(temporary, wanted.bytes());
    if (!found.equals(wanted.sha256())) {
      throw new Refusal(
          Refusal.Kind.UNDECIDED,
          "The file " + step.from() + " of " + content.whose() + " is no longer what was reviewed.",
          "Draft again with 'weftex draft --again' and have it approved.");
    }
    if (step.modified().isPresent()) {
      target.modified(temporary, step.modified().get());
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
  List<Drift> finish() throws IOException, Refusal {
    List<Drift> left = new ArrayList<>();
    for (FileStep step : steps) {
      String temporary = temporary(step);
      Optional<Folder.Entry> now = target.find(step.path());
      if (step.action() == Action.REMOVE) {
        if (now.isPresent() && !isAs(step.path(), now.get(), step.before())) {
          left.add(drift(step, "was replaced on " + copy + " since"));
        } else if (now.isPresent() && !named.by(step.path()).isEmpty()) {
          left.add(drift(step, "is named by a row of " + copy));
        } else {
          remove(step);
        }
      } else if (step.action() == Action.UPDATE) {
        if (now.isPresent() && isAs(step.path(), now.get(), step.after())) {
          target.delete(temporary);
        } else if (now.isPresent() && isAs(step.path(), now.get(), step.before())) {
          if (!target.isTaken(temporary)) {
            stage(step);
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
  void takeBack() throws IOException {
    for (FileStep step : steps) {
      if (step.after().isPresent()) {
        target.delete(temporary(step));
      }
      if (step.action() == Action.ADD) {
        Optional<Folder.Entry> now = target.find(step.path());
        if (now.isPresent() && isAs(step.path(), now.get(), step.after())) {
          remove(step);
        }
        if (now.isEmpty() && step.folder().isPresent()) {
          remove(step);
        }
      }
    }
  }

  /** Says why files could not be put in place. */
  Refusal refusal(IOException e) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The files could not be brought into " + target.words() + ": " + FailureWords.of(e) + ".",
        "See to that, or leave the files out with 'weftex review --skip'.",
        e);
  }
}
