package weftex.store.schema;

import java.util.List;
import java.util.Set;
import weftex.store.schema.SqlTokens.Kind;

/** Reads the type of a column. */
final class TypeReader {

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

  TypeReader(DefinitionReader in) {
    this.in = in;
  }

  String type(List<String> values) throws TableDefinition.Beyond {
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
}
