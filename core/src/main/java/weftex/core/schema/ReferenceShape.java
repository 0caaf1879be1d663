package weftex.core.schema;

import java.util.List;

/**
 * A foreign key that is to be made with a new table.
 *
 * @param table that it refers to, without prefix
 */
public record ReferenceShape(
    List<String> columns,
    String table,
    List<String> targets,
    Consequence onDelete,
    Consequence onUpdate) {

  /** What follows for a row when the one that it refers to goes or changes. */
  public enum Consequence {
    NONE(""),
    RESTRICT("RESTRICT"),
    CASCADE("CASCADE"),
    SET_NULL("SET NULL"),
    SET_DEFAULT("SET DEFAULT"),
    NO_ACTION("NO ACTION");

    private final String words;

    Consequence(String words) {
      this.words = words;
    }

    /** As standard SQL says it; empty for {@link #NONE}. */
    public String words() {
      return words;
    }
  }

  public ReferenceShape {
    columns = List.copyOf(columns);
    targets = List.copyOf(targets);
    columns.forEach(Shapes::name);
    targets.forEach(Shapes::name);
    Shapes.name(table);
    if (columns.isEmpty() || !targets.isEmpty() && targets.size() != columns.size()) {
      throw new IllegalArgumentException("a foreign key has no column");
    }
  }

  /** The foreign key in a line, for a person. */
  public String words() {
    return "(" + String.join(", ", columns) + ") refers to " + table;
  }
}
