package weftex.store.apply;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Action;
import weftex.core.file.Sight;
import weftex.store.Refusal;
import weftex.store.engine.Drift;
import weftex.store.placing.FileStage;
import weftex.store.receipt.ReceiptWriter;

/** The files of an undo: what moved after the apply is left alone and said. */
final class UndoFiles {
  /** An apply that brought no files. */
  static final UndoFiles NOTHING = new UndoFiles(Optional.empty());

  private final Optional<FileStage> stage;
  private final List<Drift> leftAlone = new ArrayList<>();
  private boolean begun;

  private UndoFiles(Optional<FileStage> stage) {
    this.stage = stage;
  }

  static UndoFiles of(FileStage stage) {
    return new UndoFiles(Optional.of(stage));
  }

  /**
   * Leaves files alone that are not as the apply left them. Nothing overwrites them, whatever is
   * said of rows: nobody could give them back.
   */
  void checkDrifts() throws Refusal {
    if (stage.isPresent()) {
      try {
        List<Drift> drifts = stage.get().drifts();
        leftAlone.addAll(drifts.stream().filter(drift -> !isDone(drift)).toList());
        stage.get().leave(drifts);
        stage.get().findNamers();
      } catch (IOException e) {
        throw stage.get().refusal(e);
      }
    }
  }

  /** Rows. */
  interface Rows {
    Set<Sight.Namer> of() throws IOException;
  }

  /**
   * Leaves files where they are that rows name which stay.
   *
   * @param undone the rows that are taken back, asked only if files go
   */
  void leaveNamed(Rows undone) throws IOException {
    if (stage.isPresent() && stage.get().count(Action.REMOVE) > 0) {
      leftAlone.addAll(stage.get().leaveNamed(undone.of()));
    }
  }

  /** A file that was to be removed and is gone already. */
  private boolean isDone(Drift drift) {
    return stage.orElseThrow().steps().stream()
        .anyMatch(
            step ->
                step.change() == drift.change()
                    && step.action() == Action.REMOVE
                    && drift.what().startsWith("was removed"));
  }

  boolean isNothing() {
    return stage.map(files -> files.steps().isEmpty()).orElse(true);
  }

  void prepare(ReceiptWriter writer) throws Refusal {
    try {
      begun = true;
      stage.orElseThrow().prepare(writer);
    } catch (IOException e) {
      throw stage.orElseThrow().refusal(e);
    }
  }

  ApplyOutcome.FileCounts counts() {
    return stage
        .map(
            files ->
                new ApplyOutcome.FileCounts(
                    files.count(Action.ADD),
                    files.count(Action.UPDATE),
                    files.count(Action.REMOVE),
                    List.of()))
        .orElse(ApplyOutcome.FileCounts.NONE);
  }

  void finish() throws IOException, Refusal {
    if (begun) {
      leftAlone.addAll(stage.orElseThrow().finish());
    }
  }

  void takeBack() throws IOException {
    if (begun) {
      stage.orElseThrow().takeBack();
    }
  }

  /** What became of them. */
  ApplyOutcome.FileCounts outcome() {
    ApplyOutcome.FileCounts counts = counts();
    return new ApplyOutcome.FileCounts(
        counts.added(), counts.replaced(), counts.removed(), List.copyOf(leftAlone));
  }
}
