package weftex.store.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.UnaryOperator;
import weftex.core.row.Value;
import weftex.core.schema.Collated;
import weftex.core.schema.ColumnShape;
import weftex.core.schema.ColumnShape.Standard;
import weftex.core.schema.IndexShape;
import weftex.core.schema.ReferenceShape;
import weftex.store.database.SchemaWords;
import weftex.store.schema.SqlTokens.Kind;
import weftex.store.schema.SqlTokens.Token;

/** Reads a column of a CREATE TABLE statement. */
final class ColumnDefinition {

  private final DefinitionReader in;
  private final UnaryOperator<String> tables;
  private String name = "";
  private boolean nullable = true;
  private Optional<Standard> standard = Optional.empty();
  private boolean counts;
  private Optional<Integer> touched = Optional.empty();
  private Optional<String> charset = Optional.empty();
  private Optional<String> collation = Optional.empty();
  private String comment = "";
  private boolean json;

  /**
   * Of one column.
   *
   * @param tables takes the prefix from a table's name
   */
  ColumnDefinition(DefinitionReader in, UnaryOperator<String> tables) {
    this.in = in;
    this.tables = tables;
  }

  /**
   * Reads it.
   *
   * @param indexes takes those that the column itself makes
   * @param references takes that of the column
   * @throws TableDefinition.Beyond if it says more than a shape holds
   */
  ColumnShape read(List<IndexShape> indexes, List<ReferenceShape> references)
      throws TableDefinition.Beyond {
    name = in.name();
    List<String> values = new ArrayList<>();
    String type = new TypeReader(in).type(values);
    while (!in.atElementsEnd()) {
      if (!isAboutValues() && !isAboutText() && !isKey(indexes, references)) {
        throw new TableDefinition.Beyond("its column " + name + " says " + in.next().text());
      }
    }
    return new ColumnShape(
        name,
        type,
        values,
        nullable,
        standard,
        counts,
        touched,
        new Collated(charset, collation),
        comment,
        json);
  }

  /** Which values it takes, and where it gets them from. */
  private boolean isAboutValues() throws TableDefinition.Beyond {
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
    } else if (in.skip("CHECK")) {
      json = isJsonCheck(name);
    } else {
      return false;
    }
    return true;
  }

  private boolean isAboutText() throws TableDefinition.Beyond {
    if (in.skip("CHARACTER")) {
      in.expect("SET");
      charset = Optional.of(in.name());
    } else if (in.skip("COLLATE")) {
      collation = Optional.of(in.name());
    } else if (in.skip("COMMENT")) {
      comment = in.string();
    } else {
      return false;
    }
    return true;
  }

  private boolean isKey(List<IndexShape> indexes, List<ReferenceShape> references)
      throws TableDefinition.Beyond {
    if (in.skip("PRIMARY")) {
      in.expect("KEY");
      in.skip("ASC");
      counts |= in.skip("AUTOINCREMENT");
      indexes.add(new IndexShape("", IndexShape.Kind.PRIMARY, whole(name)));
    } else if (in.skip("UNIQUE")) {
      indexes.add(new IndexShape("unique_" + name, IndexShape.Kind.UNIQUE, whole(name)));
    } else if (in.peek().is("REFERENCES")) {
      references.add(new ReferenceDefinition(in).read(List.of(name), tables));
    } else {
      return false;
    }
    return true;
  }

  private static List<IndexShape.Part> whole(String column) {
    return List.of(new IndexShape.Part(column, Optional.empty(), false, Optional.empty()));
  }

  private Standard standard(String column) throws TableDefinition.Beyond {
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
        throw new TableDefinition.Beyond("its column " + column + " has the default " + digits);
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
      throw new TableDefinition.Beyond(
          "its column " + column + " has a default that is worked out");
    }
    if (inside) {
      in.expect(")");
    }
    return standard;
  }

  /** The time of writing, and its digits of fractions. */
  private int now(String column) throws TableDefinition.Beyond {
    if (!in.next().is("CURRENT_TIMESTAMP")) {
      throw new TableDefinition.Beyond(
          "its column " + column + " has a default that is worked out");
    }
    int fraction = 0;
    if (in.skip("(")) {
      fraction = in.peek().is(")") ? 0 : in.number();
      in.expect(")");
    }
    return fraction;
  }

  /** The time of writing to the millisecond, as SQLite is made to write it. */
  private int milliseconds(String column) throws TableDefinition.Beyond {
    in.expect("strftime");
    in.expect("(");
    boolean known = in.string().equals(SchemaWords.MILLISECONDS) && in.skip(",");
    if (!known || !in.string().equals("now")) {
      throw new TableDefinition.Beyond(
          "its column " + column + " has a default that is worked out");
    }
    in.expect(")");
    return 3;
  }

  /** The check that a server puts on JSON by itself. */
  private boolean isJsonCheck(String column) throws TableDefinition.Beyond {
    in.expect("(");
    boolean json = in.next().text().toLowerCase(Locale.ROOT).equals("json_valid") && in.skip("(");
    if (!json || !in.name().equals(column)) {
      throw new TableDefinition.Beyond("its column " + column + " has a check");
    }
    in.expect(")");
    in.expect(")");
    return true;
  }
}
