package weftex.store.copy;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import weftex.core.row.Value;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.ColumnShape.Standard;
import weftex.core.schema.IndexShape;
import weftex.core.schema.ReferenceShape;
import weftex.core.schema.TableShape;
import weftex.store.copy.SqlTokens.Kind;
import weftex.store.copy.SqlTokens.Token;

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
  private static final Set<String> ATTRIBUTES =
      Set.of(
          "NOT",
          "NULL",
          "DEFAULT",
          "AUTO_INCREMENT",
          "AUTOINCREMENT",
          "ON",
          "CHARACTER",
          "COLLATE",
          "COMMENT",
          "CHECK",
          "PRIMARY",
          "UNIQUE",
          "REFERENCES",
          "GENERATED",
          "AS",
          "INVISIBLE",
          "CONSTRAINT",
          "WITHOUT");

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
      return new TableShape(
          shape.columns(),
          indexes,
          shape.references(),
          shape.engine(),
          shape.charset(),
          shape.collation(),
          shape.rowFormat(),
          shape.comment(),
          shape.versioned(),
          shape.withoutRowNumber());
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
    Optional<String> engine = Optional.empty();
    Optional<String> charset = Optional.empty();
    Optional<String> collation = Optional.empty();
    Optional<String> rowFormat = Optional.empty();
    String comment = "";
    boolean versioned = false;
    boolean withoutRowNumber = false;
    while (!in.atEnd()) {
      in.skip("DEFAULT");
      if (in.skip("ENGINE")) {
        engine = Optional.of(in.option());
      } else if (in.skip("CHARSET")) {
        charset = Optional.of(in.option());
      } else if (in.skip("COLLATE")) {
        collation = Optional.of(in.option());
      } else if (in.skip("ROW_FORMAT")) {
        rowFormat = Optional.of(in.option());
      } else if (in.skip("AUTO_INCREMENT")) {
        in.option();
      } else if (in.skip("COMMENT")) {
        in.skip("=");
        comment = in.string();
      } else if (in.skip("WITH")) {
        in.expect("SYSTEM");
        in.expect("VERSIONING");
        versioned = true;
      } else if (in.skip("WITHOUT")) {
        in.expect("ROWID");
        withoutRowNumber = true;
      } else if (!in.skip(",")) {
        throw new Beyond("its definition has " + in.next().text() + " behind the columns");
      }
    }
    return new TableShape(
        columns,
        indexes,
        references,
        engine,
        charset,
        collation,
        rowFormat,
        comment,
        versioned,
        withoutRowNumber);
  }

  private void element() throws Beyond {
    if (in.peek().kind() == Kind.QUOTED || !CONSTRAINTS.contains(in.peekWord())) {
      column();
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
      references.add(reference(in.names()));
    } else {
      throw new Beyond("it has a " + in.peekWord() + " constraint");
    }
    if (in.skip("USING")) {
      in.next();
    }
  }

  private ReferenceShape reference(List<String> own) throws Beyond {
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

  private ReferenceShape.Consequence consequence() throws Beyond {
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
    throw new Beyond("a foreign key of it says ON … " + words);
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

  private void column() throws Beyond {
    String name = in.name();
    List<String> values = new ArrayList<>();
    String type = type(values);
    boolean nullable = true;
    Optional<Standard> standard = Optional.empty();
    boolean counts = false;
    Optional<Integer> touched = Optional.empty();
    Optional<String> charset = Optional.empty();
    Optional<String> collation = Optional.empty();
    String comment = "";
    boolean json = false;
    while (!in.atElementsEnd()) {
      if (in.skip("NOT")) {
        in.expect("NULL");
        nullable = false;
      } else if (in.skip("NULL")) {
        nullable = true;
      } else if (in.skip("DEFAULT")) {
        standard = Optional.of(standard(name));
      } else if (in.skip("AUTO_INCREMENT")) {
        counts = true;
      } else if (in.skip("ON")) {
        in.expect("UPDATE");
        touched = Optional.of(now(name));
      } else if (in.skip("CHARACTER")) {
        in.expect("SET");
        charset = Optional.of(in.name());
      } else if (in.skip("COLLATE")) {
        collation = Optional.of(in.name());
      } else if (in.skip("COMMENT")) {
        comment = in.string();
      } else if (in.skip("CHECK")) {
        json = isJsonCheck(name);
      } else if (in.skip("PRIMARY")) {
        in.expect("KEY");
        in.skip("ASC");
        counts |= in.skip("AUTOINCREMENT");
        indexes.add(new IndexShape("", IndexShape.Kind.PRIMARY, whole(name)));
      } else if (in.skip("UNIQUE")) {
        indexes.add(new IndexShape("unique_" + name, IndexShape.Kind.UNIQUE, whole(name)));
      } else if (in.peek().is("REFERENCES")) {
        references.add(reference(List.of(name)));
      } else {
        throw new Beyond("its column " + name + " says " + in.next().text());
      }
    }
    columns.add(
        new ColumnShape(
            name, type, values, nullable, standard, counts, touched, charset, collation, comment,
            json));
  }

  private static List<IndexShape.Part> whole(String column) {
    return List.of(new IndexShape.Part(column, Optional.empty(), false, Optional.empty()));
  }

  private String type(List<String> values) throws Beyond {
    StringBuilder type = new StringBuilder();
    while (!in.atElementsEnd()
        && in.peek().kind() == Kind.WORD
        && !ATTRIBUTES.contains(in.peekWord())) {
      type.append(type.length() == 0 ? "" : " ").append(in.next().text());
      if (!in.atEnd() && in.peek().is("(")) {
        in.expect("(");
        if (in.peek().kind() == Kind.STRING) {
          do {
            values.add(in.string());
          } while (in.skip(","));
        } else {
          type.append('(').append(in.number());
          if (in.skip(",")) {
            type.append(',').append(in.number());
          }
          type.append(')');
        }
        in.expect(")");
      }
    }
    return type.toString();
  }

  private Standard standard(String column) throws Beyond {
    boolean inside = in.skip("(");
    Standard standard;
    Token first = in.peek();
    if (first.kind() == Kind.STRING) {
      standard = new Standard.Literal(Value.text(in.string()));
    } else if (in.skip("NULL")) {
      standard = new Standard.Literal(Value.NULL);
    } else if (first.is("CURRENT_TIMESTAMP")) {
      standard = new Standard.Now(now(column));
    } else if (first.is("strftime")) {
      standard = new Standard.Now(milliseconds(column));
    } else if (first.is("-") || first.text().matches("\\d.*")) {
      String sign = in.skip("-") ? "-" : "";
      String digits = sign + in.next().text();
      if (!digits.matches("-?\\d+(\\.\\d+)?")) {
        throw new Beyond("its column " + column + " has the default " + digits);
      }
      standard =
          new Standard.Literal(
              digits.contains(".")
                  ? new Value.Decimal(digits)
                  : new Value.Whole(new java.math.BigInteger(digits)));
    } else if (first.text().matches("[bB]") && in.isFollowedByString()) {
      in.next();
      standard =
          new Standard.Literal(new Value.Whole(new java.math.BigInteger("0" + in.string(), 2)));
    } else {
      throw new Beyond("its column " + column + " has a default that is worked out");
    }
    if (inside) {
      in.expect(")");
    }
    return standard;
  }

  /** The time of writing, and its digits of fractions. */
  private int now(String column) throws Beyond {
    if (!in.next().is("CURRENT_TIMESTAMP")) {
      throw new Beyond("its column " + column + " has a default that is worked out");
    }
    int fraction = 0;
    if (in.skip("(")) {
      fraction = in.peek().is(")") ? 0 : in.number();
      in.expect(")");
    }
    return fraction;
  }

  /** The time of writing to the millisecond, as SQLite is made to write it. */
  private int milliseconds(String column) throws Beyond {
    in.expect("strftime");
    in.expect("(");
    boolean known = in.string().equals(SchemaWords.MILLISECONDS) && in.skip(",");
    if (!known || !in.string().equals("now")) {
      throw new Beyond("its column " + column + " has a default that is worked out");
    }
    in.expect(")");
    return 3;
  }

  /** The check that a server puts on JSON by itself. */
  private boolean isJsonCheck(String column) throws Beyond {
    in.expect("(");
    boolean json = in.next().text().toLowerCase(Locale.ROOT).equals("json_valid") && in.skip("(");
    if (!json || !in.name().equals(column)) {
      throw new Beyond("its column " + column + " has a check");
    }
    in.expect(")");
    in.expect(")");
    return true;
  }
}
