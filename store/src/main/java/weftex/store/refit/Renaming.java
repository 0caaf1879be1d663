package weftex.store.refit;

import java.util.List;
import java.util.Set;
import weftex.store.schema.SqlTokens;

/** Gives the names in a copy's statements the prefix of another copy. */
final class Renaming {
  /** Behind these a name is that of a table, even if a column has it, too. */
  private static final Set<String> BEFORE_TABLES =
      Set.of(
          "TABLE",
          "VIEW",
          "TRIGGER",
          "INDEX",
          "REFERENCES",
          "ON",
          "INTO",
          "FROM",
          "JOIN",
          "UPDATE");

  private final String from;
  private final String into;
  private final Set<String> known;
  private final boolean backslash;

  /**
   * @param known whole names of tables, views, triggers and indexes
   * @param backslash whether a backslash in a string takes the next character as it is
   */
  Renaming(String from, String into, Set<String> known, boolean backslash) {
    this.from = from;
    this.into = into;
    this.known = Set.copyOf(known);
    this.backslash = backslash;
  }

  String name(String realName) {
    return known.contains(realName) ? into + realName.substring(from.length()) : realName;
  }

  /** A statement with the other names; strings that are a table's whole name, too. */
  String sql(String statement, boolean stringsToo) {
    if (from.equals(into)) {
      return statement;
    }
    List<SqlTokens.Token> tokens = SqlTokens.of(statement, backslash);
    StringBuilder out = new StringBuilder();
    int at = 0;
    for (int i = 0; i < tokens.size(); i++) {
      SqlTokens.Token token = tokens.get(i);
      String told = told(tokens, i, stringsToo);
      if (!told.equals(token.text())) {
        out.append(statement, at, token.from());
        char quote = statement.charAt(token.from());
        boolean bare = Character.isLetterOrDigit(quote) || quote == '_';
        out.append(bare ? told : quoted(told, quote));
        at = token.to();
      }
    }
    return out.append(statement.substring(at)).toString();
  }

  private static String quoted(String name, char quote) {
    char end = quote == '[' ? ']' : quote;
    return quote + name.replace(String.valueOf(end), String.valueOf(end) + end) + end;
  }

  private String told(List<SqlTokens.Token> tokens, int i, boolean stringsToo) {
    SqlTokens.Token token = tokens.get(i);
    String text = token.text();
    if (!token.isName()) {
      boolean whole = stringsToo && text.length() > 2 && text.startsWith("'");
      String inner = whole ? text.substring(1, text.length() - 1) : "";
      return whole && known.contains(inner) ? "'" + name(inner) + "'" : text;
    }
    boolean constraint = i > 0 && tokens.get(i - 1).is("CONSTRAINT");
    if (constraint) {
      return isOfATable(text) ? into + text.substring(from.length()) : text;
    }
    boolean certain = !from.isEmpty() || i > 0 && isBeforeTables(tokens.get(i - 1));
    boolean qualifies = i + 1 < tokens.size() && tokens.get(i + 1).is(".");
    return known.contains(text) && (certain || qualifies) ? name(text) : text;
  }

  private static boolean isBeforeTables(SqlTokens.Token token) {
    return BEFORE_TABLES.stream().anyMatch(token::is);
  }

  /** Names of constraints exist once in a database; servers call theirs by the table. */
  private boolean isOfATable(String constraint) {
    return from.isEmpty()
        ? known.stream().anyMatch(table -> constraint.startsWith(table + "_ibfk_"))
        : constraint.startsWith(from);
  }
}
