package weftex.cli.workplace;

import java.io.IOException;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import weftex.core.change.Outline;
import weftex.core.change.SchemaChange;
import weftex.core.row.Value;
import weftex.core.select.Selection;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;

/** Which changes of a change set a selection chooses. */
public final class Chosen {
  private Chosen() {}

  public static SortedSet<Integer> of(ChangeSetFile file, Selection selection) throws IOException {
    SortedSet<Integer> chosen = new TreeSet<>();
    Set<String> newTables = new HashSet<>();
    for (SchemaChange change : file.schema()) {
      if (change.column().isEmpty()) {
        newTables.add(change.table());
      }
      if (selection.chooses(change)) {
        chosen.add(change.id());
      }
    }
    for (Outline change : file.outlines()) {
      Map<String, Value> values =
          selection.asksForValues() ? file.change(change.id()).values() : Map.of();
      if (selection.chooses(change, values, newTables.contains(change.table()))) {
        chosen.add(change.id());
      }
    }
    return chosen;
  }

  /**
   * The same.
   *
   * @throws Refusal if it chooses none
   */
  public static SortedSet<Integer> some(ChangeSetFile file, Selection selection)
      throws Refusal, IOException {
    SortedSet<Integer> chosen = of(file, selection);
    if (chosen.isEmpty()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "Nothing in the change set is chosen by that. Nothing was changed.",
          "'weftex review --list' lists what there is.");
    }
    return chosen;
  }
}
