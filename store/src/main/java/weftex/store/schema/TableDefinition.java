package weftex.store.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.IndexShape;
import weftex.core.schema.ReferenceShape;
import weftex.core.schema.TableShape;
import weftex.store.schema.SqlTokens.Kind;

/**
 * Reads a CREATE TABLE statement, as a server or file has it, into a shape. What is beyond a small
 * grammar is not taken: expressions, partitions, and whatever else a statement can say, are left to
 * a person, who is told so.
 */
final class TableDefinition {
  /** What a statement says and a shape does not hold. */
  static final class Beyond extends Exception {
    private static final long serialVersionUID = 1;

    Beyond(String what) {
      super(what);
    }
  }

  private static final Set<String> CONSTRAINTS =
      Set.of(
          "PRIMARY",
          "UNIQUE",
          "KEY",
          "INDEX",
          "FULLTEXT",
          "SPATIAL",
          "CONSTRAINT",
          "FOREIGN",
          "CHECK",
          "PERIOD");
  private final DefinitionReader in;
  private final UnaryOperator<String> tables;
  private final List<ColumnShape> columns = new ArrayList<>();
  private final List<IndexShape> indexes = new ArrayList<>();
  private final List<ReferenceShape> references = new ArrayList<>();

  private TableDefinition(DefinitionReader in, UnaryOperator<String> tables) {
    this.in = in;
    this.tables = tables;
  }

  /**
   * Reads a table.
   *
   * @param statements the table's own, then those of indexes that stand apart
   * @param backslash whether a backslash in a string takes the next character as it is
   * @param tables takes the prefix from a table's name
   * @throws Beyond if they say more than a shape holds
   */
  static TableShape read(List<String> statements, boolean backslash, UnaryOperator<String> tables)
      throws Beyond {
    TableDefinition definition =
        new TableDefinition(new DefinitionReader(statements.get(0), backslash), tables);
    try {
      TableShape shape = definition.table();
      List<IndexShape> indexes = new ArrayList<>(shape.indexes());
      for (String apart : statements.subList(1, statements.size())) {
        indexes.add(index(new DefinitionReader(apart, backslash)));
      }
      return new TableShape(shape.columns(), indexes, shape.references(), shape.options());
    } catch (IllegalArgumentException e) {
      throw new Beyond(e.getMessage());
    }
  }

  private TableShape table() throws Beyond {
    in.expect("CREATE");
    in.skip("TEMPORARY");
    in.expect("TABLE");
    if (in.skip("IF")) {
      in.expect("NOT");
      in.expect("EXISTS");
    }
    in.name();
    in.expect("(");
    do {
      element();
    } while (in.skip(","));
    in.expect(")");
    return new TableShape(columns, indexes, references, new OptionsReader(in).read());
  }

  private void element() throws Beyond {
    if (in.peek().kind() == Kind.QUOTED || !CONSTRAINTS.contains(in.peekWord())) {
      columns.add(new ColumnDefinition(in, tables).read(indexes, references));
      return;
    }
    if (in.skip("CONSTRAINT")) {
      // A database has the name of a foreign key only once, so it is not carried.
      in.name();
    }
    if (in.skip("PRIMARY")) {
      in.expect("KEY");
      indexes.add(new IndexShape("", IndexShape.Kind.PRIMARY, parts()));
    } else if (in.skip("UNIQUE")) {
      boolean named = in.skip("KEY") || in.skip("INDEX");
      String name =
          named || in.peek().kind() == Kind.QUOTED ? in.name() : "unique_" + columns.size();
      indexes.add(new IndexShape(name, IndexShape.Kind.UNIQUE, parts()));
    } else if (in.skip("FULLTEXT") || in.skip("SPATIAL")) {
      boolean text = in.previous().is("FULLTEXT");
      in.skip("KEY");
      indexes.add(
          new IndexShape(
              in.name(), text ? IndexShape.Kind.FULLTEXT : IndexShape.Kind.SPATIAL, parts()));
    } else if (in.skip("KEY") || in.skip("INDEX")) {
      indexes.add(new IndexShape(in.name(), IndexShape.Kind.PLAIN, parts()));
    } else if (in.skip("FOREIGN")) {
      in.expect("KEY");
      if (in.peek().kind() == Kind.QUOTED) {
        in.name();
      }
      references.add(new ReferenceDefinition(in).read(in.names(), tables));
    } else {
      throw new Beyond("it has a " + in.peekWord() + " constraint");
    }
    if (in.skip("USING")) {
      in.next();
    }
  }

  private List<IndexShape.Part> parts() throws Beyond {
    return parts(in);
  }

  private static List<IndexShape.Part> parts(DefinitionReader in) throws Beyond {
    List<IndexShape.Part> parts = new ArrayList<>();
    in.expect("(");
    do {
      String column = in.name();
      Optional<Integer> length = Optional.empty();
      if (in.skip("(")) {
        length = Optional.of(in.number());
        in.expect(")");
      }
      Optional<String> collation = in.skip("COLLATE") ? Optional.of(in.name()) : Optional.empty();
      boolean descending = in.skip("DESC");
      in.skip("ASC");
      parts.add(new IndexShape.Part(column, length, descending, collation));
    } while (in.skip(","));
    in.expect(")");
    return parts;
  }

  /** An index by the statement that makes it. */
  private static IndexShape index(DefinitionReader in) throws Beyond {
    in.expect("CREATE");
    boolean unique = in.skip("UNIQUE");
    in.expect("INDEX");
    String name = in.name();
    in.expect("ON");
    in.name();
    List<IndexShape.Part> parts = parts(in);
    if (!in.atEnd()) {
      throw new Beyond("its index " + name + " holds for some rows only");
    }
    return new IndexShape(name, unique ? IndexShape.Kind.UNIQUE : IndexShape.Kind.PLAIN, parts);
  }
}
