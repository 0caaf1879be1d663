package weftex.store.schema;

import java.util.List;
import java.util.function.UnaryOperator;
import weftex.core.schema.ReferenceShape;

/** Reads where a foreign key of a CREATE TABLE statement leads, from its REFERENCES on. */
record ReferenceDefinition(DefinitionReader in) {

  /**
   * Reads it.
   *
   * @param own the columns that refer
   * @param tables takes the prefix from a table's name
   */
  ReferenceShape read(List<String> own, UnaryOperator<String> tables)
      throws TableDefinition.Beyond {
    in.expect("REFERENCES");
    String table = tables.apply(in.name());
    List<String> targets = in.peek().is("(") ? in.names() : List.of();
    ReferenceShape.Consequence onDelete = ReferenceShape.Consequence.NONE;
    ReferenceShape.Consequence onUpdate = ReferenceShape.Consequence.NONE;
    while (in.skip("ON")) {
      boolean delete = in.next().is("DELETE");
      ReferenceShape.Consequence consequence = consequence();
      onDelete = delete ? consequence : onDelete;
      onUpdate = delete ? onUpdate : consequence;
    }
    return new ReferenceShape(own, table, targets, onDelete, onUpdate);
  }

  private ReferenceShape.Consequence consequence() throws TableDefinition.Beyond {
    String first = SqlTokens.upper(in.next().text());
    String words =
        first.equals("SET") || first.equals("NO")
            ? first + " " + SqlTokens.upper(in.next().text())
            : first;
    for (ReferenceShape.Consequence known : ReferenceShape.Consequence.values()) {
      if (known.words().equals(words)) {
        return known;
      }
    }
    throw new TableDefinition.Beyond("a foreign key of it says ON … " + words);
  }
}
