package weftex.cli.command;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.SharedTable;
import weftex.store.database.Trigger;

/** What a check finds that stands in nobody's way, but is better known beforehand. */
final class CheckWarnings {
  private final List<String> warnings = new ArrayList<>();

  List<String> all() {
    return warnings;
  }

  void add(String warning) {
    warnings.add(warning);
  }

  /** Looks at a copy: rights, and tables of unusual kinds. */
  void look(Copy copy, boolean willBeWritten) throws Refusal {
    List<String> missing = copy.missingRights(willBeWritten);
    if (!missing.isEmpty()) {
      warnings.add(
          copy.name()
              + ": its user lacks the right to "
              + String.join(", ", missing)
              + (willBeWritten ? ", which apply needs" : ", which comparing needs"));
    }
    if (willBeWritten && copy.keepsOlderLedger()) {
      warnings.add(
          copy.name()
              + ": its user lacks the right to ALTER, so the ledger "
              + copy.spec().prefix()
              + Catalog.LEDGER
              + " of an older version can't vouch for receipts; apply and undo work, but a receipt that somebody altered is not noticed");
    }
    copy.catalog()
        .notHandled()
        .forEach(
            (name, what) ->
                warnings.add(
                    copy.name()
                        + ": "
                        + copy.spec().prefix()
                        + name
                        + " is "
                        + what
                        + "; it is not compared, and never written"));
    copy.catalog().all().forEach(table -> look(copy, table));
  }

  private void look(Copy copy, CatalogTable table) {
    if (table.versioned()) {
      warnings.add(
          copy.name()
              + ": table "
              + table.realName()
              + " is system-versioned; its present rows are compared and written, and the server keeps its history");
    }
    if (!table.transactional()) {
      warnings.add(
          copy.name()
              + ": table "
              + table.realName()
              + " ("
              + table.engine()
              + ") can't roll back; apply refuses it unless told otherwise");
    }
    for (Trigger trigger : table.triggers()) {
      warnings.add(
          copy.name()
              + ": table "
              + table.realName()
              + " has the trigger "
              + trigger.words()
              + ", which runs when rows are written"
              + (trigger.names().isEmpty()
                  ? ""
                  : " and may write to " + String.join(", ", new TreeSet<>(trigger.names()))));
    }
    if (!table.table().hasKey()) {
      warnings.add(
          copy.name()
              + ": table "
              + table.realName()
              + " has no primary key; its rows are compared whole, and only added or removed");
    }
  }

  /** Looks at a table of both copies: columns that only one has, or that differ. */
  void look(SharedTable table) {
    table
        .onlyInSource()
        .forEach(
            c ->
                warnings.add(
                    "column "
                        + table.name()
                        + "."
                        + c
                        + " is only on staging; a draft makes it on live if it is newer than the base"));
    table
        .onlyInTarget()
        .forEach(
            c ->
                warnings.add(
                    "column " + table.name() + "." + c + " is only on live and is left alone"));
    table
        .differing()
        .forEach(c -> warnings.add("column " + table.name() + "." + c + " (staging / live)"));
  }
}
