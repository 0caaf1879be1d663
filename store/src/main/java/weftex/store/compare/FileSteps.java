package weftex.store.compare;

import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.change.Action;
import weftex.core.file.FileRows;
import weftex.core.row.Value;
import weftex.store.receipt.MergedRows;

/** What earlier merges made of files, in both directions, in the order of time. */
final class FileSteps {
  private final List<Step> steps = new ArrayList<>();

  /**
   * One file in one merge.
   *
   * @param path on the copy that was written
   * @param intoTarget whether that was the one that is the target now
   */
  record Step(String path, boolean intoTarget, MergedRows.Settled settled) {}

  /**
   * @param merged what was merged into the target, and what into the source
   */
  FileSteps(List<MergedRows> merged) throws IOException {
    for (int i = 0; i < merged.size(); i++) {
      for (Map<String, Value> key : merged.get(i).keys(FileRows.TABLE)) {
        String path = key.get(FileRows.PATH).display();
        for (MergedRows.Settled settled : merged.get(i).settled(FileRows.TABLE, key)) {
          steps.add(new Step(path, i == 0, settled));
        }
      }
    }
    // Within one path the ledger's order stays: the sort is stable, and clocks of one machine tell
    // the order of two copies' merges.
    steps.sort(Comparator.comparing(step -> Instant.parse(step.settled().at())));
  }

  List<Step> all() {
    return steps;
  }

  /**
   * Names that the target has for files of the source, where they are others. The newest one holds,
   * and a name whose file a merge removed is free for anything.
   */
  Map<String, String> names() {
    Map<String, String> toTarget = new TreeMap<>();
    for (Step step : steps) {
      String path = step.path();
      Value from = step.settled().values().get(FileRows.FROM);
      if (from != null) {
        String there = from.display();
        forget(toTarget, path, step.intoTarget());
        toTarget.put(step.intoTarget() ? there : path, step.intoTarget() ? path : there);
      } else if (step.settled().action() == Action.REMOVE && !step.settled().kept()) {
        forget(toTarget, path, step.intoTarget());
      }
    }
    return toTarget;
  }

  private static void forget(Map<String, String> toTarget, String path, boolean onTarget) {
    if (onTarget) {
      toTarget.values().removeIf(path::equals);
    } else {
      toTarget.remove(path);
    }
  }
}
