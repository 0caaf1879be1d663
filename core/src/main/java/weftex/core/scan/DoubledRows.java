package weftex.core.scan;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.model.ColumnRule;
import weftex.core.model.Role;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/**
 * Finds things without an identity that are there twice, word for word and part by part, as a merge
 * leaves them that did not know that it had brought them before. Memory grows with eight bytes for
 * each such row.
 */
final class DoubledRows {
  /** Rows of less text may say the same by chance. */
  private static final int LEAST_TEXT = 12;

  private static final int LONGEST_LOOKED_UP = 100;
  private static final int LOOKED_UP_BY = 3;
  private static final int PARTS_LOOKED_AT = 200;
  private static final int ALIKE_LOOKED_AT = 20;

  /** Of a table that is full of rows that say the same nobody needs to hear more. */
  private static final int MOST_LOOKED_UP = 200;

  private final SiteMap site;
  private final RowFinder rows;
  private final Map<String, HashSetOfLongs> seen = new HashMap<>();
  private final Map<String, Integer> lookedUp = new HashMap<>();

  DoubledRows(SiteMap site, RowFinder rows) {
    this.site = site;
    this.rows = rows;
  }

  /** Whether rows of a table are things of their own that can be there twice. */
  static boolean canHave(TableModel model) {
    return model.table().isNumbered()
        && model.parts().of().isEmpty()
        && model.parts().through().isEmpty()
        && model.ownership().role() == Role.CONTENT;
  }

  /** An earlier row that says the same as this one. */
  Optional<List<Value>> earlier(TableModel model, List<Value> row) throws IOException {
    if (model.identity().isOf(row) || model.ownership().role(row) != Role.CONTENT) {
      return Optional.empty();
    }
    List<Integer> said = said(model);
    List<Value> values = Table.pick(row, said);
    int text = 0;
    for (Value value : values) {
      text += value instanceof Value.Text words ? words.utf8().length : 0;
    }
    String table = model.table().name();
    boolean first =
        text < LEAST_TEXT
            || seen.computeIfAbsent(table, name -> new HashSetOfLongs()).add(Fnv.hash(values));
    if (first || lookedUp.merge(table, 1, Integer::sum) > MOST_LOOKED_UP) {
      return Optional.empty();
    }
    List<Integer> by = lookUp(model, row);
    for (Row other : rows.find(model.table(), by, Table.pick(row, by), ALIKE_LOOKED_AT)) {
      List<Value> there = other.values();
      boolean same =
          !key(model, there).equals(key(model, row))
              && Table.pick(there, said).equals(values)
              && parts(model, there).equals(parts(model, row));
      if (same) {
        return Optional.of(there);
      }
    }
    return Optional.empty();
  }

  private static List<Value> key(TableModel model, List<Value> row) {
    return Table.pick(row, model.table().key());
  }

  /** The columns that say something: no ID, no permanent name, nothing that is a copy's own. */
  private static List<Integer> said(TableModel model) {
    List<Integer> said = new ArrayList<>();
    for (int i = 0; i < model.table().columns().size(); i++) {
      if (!model.leftAlone().contains(i) && model.handling().columns().get(i) != ColumnRule.NEWER) {
        said.add(i);
      }
    }
    return said;
  }

  /** The columns that tell most, and that a database looks up readily. */
  static List<Integer> lookUp(TableModel model, List<Value> row) {
    return said(model).stream()
        .filter(i -> !row.get(i).isNull() && length(row.get(i)) <= LONGEST_LOOKED_UP)
        // IDs of other rows may be others on the other copy.
        .filter(i -> model.references().stream().noneMatch(of -> of.columns().contains(i)))
        .sorted(Comparator.comparing((Integer i) -> -length(row.get(i))))
        .limit(LOOKED_UP_BY)
        .sorted()
        .toList();
  }

  private static int length(Value value) {
    return value.display().length();
  }

  /** What the parts of a row say, in an order of their own. */
  private List<String> parts(TableModel model, List<Value> row) throws IOException {
    List<String> parts = new ArrayList<>();
    for (TableModel part : site.tables()) {
      Optional<Reference> of =
          part.parts().of().filter(reference -> reference.target().equals(model.table().name()));
      if (of.isEmpty()) {
        continue;
      }
      List<Integer> said = new ArrayList<>(said(part));
      said.removeAll(of.get().columns());
      for (Row found :
          rows.find(
              part.table(),
              of.get().columns(),
              Table.pick(row, of.get().targetColumns()),
              PARTS_LOOKED_AT)) {
        if (part.ownership().role(found.values()) != Role.NOISE) {
          parts.add(part.table().name() + Table.pick(found.values(), said));
        }
      }
    }
    parts.sort(Comparator.naturalOrder());
    return parts;
  }
}
