package weftex.store.engine;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.SchemaChange;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.Catalog;
import weftex.store.database.CatalogTable;
import weftex.store.database.Trigger;
import weftex.store.database.WriteTable;

/** The tables of the target as they are written, in the terms of the change set. */
public final class TargetTables {
  private final Map<String, WriteTable> tables = new HashMap<>();
  private final Map<String, Set<String>> goneColumns = new HashMap<>();
  private final Set<String> goneTables = new HashSet<>();
  private final Copy target;

  private TargetTables(Copy target) {
    this.target = target;
  }

  /**
   * Checks that the target's tables are those that the change set was drafted for.
   *
   * @throws Refusal if a table or column vanished, came or changed since
   */
  public static TargetTables check(Copy target, List<ChangeSetHeader.TableColumns> drafted)
      throws Refusal {
    return of(target, drafted, true, List.of());
  }

  /**
   * The same for an undo, which must go on where it can: only what it needs has to be there.
   *
   * @param schema what the apply made itself, which may be gone again
   * @throws Refusal if a table or column that the receipt speaks of is gone
   */
  public static TargetTables forUndo(
      Copy target, List<ChangeSetHeader.TableColumns> recorded, List<SchemaChange> schema)
      throws Refusal {
    return of(target, recorded, false, schema);
  }

  private static TargetTables of(
      Copy target,
      List<ChangeSetHeader.TableColumns> all,
      boolean exactly,
      List<SchemaChange> schema)
      throws Refusal {
    TargetTables tables = new TargetTables(target);
    for (SchemaChange change : schema) {
      change
          .column()
          .filter(column -> !has(target, change.table(), column))
          .ifPresent(
              column ->
                  tables
                      .goneColumns
                      .computeIfAbsent(change.table(), name -> new HashSet<>())
                      .add(column));
    }
    for (ChangeSetHeader.TableColumns recorded : all) {
      ChangeSetHeader.TableColumns drafted = tables.without(recorded);
      Optional<CatalogTable> now = target.catalog().find(drafted.name());
      boolean made =
          schema.stream().anyMatch(c -> c.column().isEmpty() && c.table().equals(drafted.name()));
      if (now.isEmpty() && made) {
        tables.goneTables.add(drafted.name());
      }
      if (now.isEmpty() && !exactly) {
        continue;
      }
      if (now.isEmpty()) {
        throw BaseTerms.changed(target, "table " + drafted.name() + " is no longer there");
      }
      tables.tables.put(
          drafted.name(),
          WriteTable.of(
              now.get(), BaseTerms.inTermsOf(drafted, now.get().table(), target, exactly)));
    }
    return tables;
  }

  private static boolean has(Copy target, String table, String column) {
    return target
        .catalog()
        .find(table)
        .map(t -> t.table().position(column).isPresent())
        .orElse(false);
  }

  private ChangeSetHeader.TableColumns without(ChangeSetHeader.TableColumns recorded) {
    Set<String> gone = goneColumns(recorded.name());
    return new ChangeSetHeader.TableColumns(
        recorded.name(),
        recorded.key(),
        recorded.number(),
        recorded.columns().stream().filter(column -> !gone.contains(column.name())).toList(),
        recorded.others());
  }

  /** Columns that the apply made and that are gone again. */
  public Set<String> goneColumns(String table) {
    return goneColumns.getOrDefault(table, Set.of());
  }

  /** Whether a table is one that the apply made and that is gone again. */
  public boolean isGone(String table) {
    return goneTables.contains(table);
  }

  /**
   * Which of the written tables a trigger of another written table may fill, as sentences; empty if
   * none.
   */
  public String filledByTriggers() {
    StringBuilder said = new StringBuilder();
    for (String name : new TreeSet<>(tables.keySet())) {
      for (Trigger trigger :
          target.catalog().find(name).map(CatalogTable::triggers).orElse(List.of())) {
        for (String filled : new TreeSet<>(trigger.names())) {
          if (tables.values().stream().anyMatch(table -> table.realName().equals(filled))) {
            said.append(" Table ")
                .append(filled)
                .append(" may be filled by the trigger ")
                .append(trigger.words())
                .append(" of ")
                .append(tables.get(name).realName())
                .append('.');
          }
        }
      }
    }
    return said.toString();
  }

  /** Whether a table has triggers. */
  public boolean hasTriggers(String name) {
    return target.catalog().find(name).map(table -> !table.triggers().isEmpty()).orElse(false);
  }

  /** Whether a table is written. */
  public boolean isWritten(String table) {
    return tables.containsKey(table);
  }

  public WriteTable table(String name) throws Refusal {
    WriteTable table = tables.get(name);
    if (table == null && target.catalog().find(name).isEmpty()) {
      throw BaseTerms.changed(target, "table " + name + " is no longer there");
    }
    if (table == null) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "The change set changes table "
              + name
              + ", which its header does not list. Nothing was changed.",
          "Draft again with 'weftex draft'.");
    }
    return table;
  }

  /** A table that is not part of the change set but refers to one that is; empty if it is gone. */
  public Optional<WriteTable> other(String name) {
    WriteTable known = tables.get(name);
    return known != null
        ? Optional.of(known)
        : target.catalog().find(name).map(t -> WriteTable.of(t, t.table()));
  }

  /** Whether what is written to a table can be taken back if something fails. */
  boolean canRollBack(String name) {
    return target.catalog().find(name).map(CatalogTable::transactional).orElse(false);
  }

  /** The names of tables of the change set whose engine can't roll back. */
  public static List<String> notTransactional(
      Catalog catalog, List<ChangeSetHeader.TableColumns> tables) {
    return tables.stream()
        .map(drafted -> catalog.find(drafted.name()))
        .flatMap(Optional::stream)
        .filter(table -> !table.transactional())
        .map(table -> table.realName() + " (" + table.engine() + ")")
        .toList();
  }
}
