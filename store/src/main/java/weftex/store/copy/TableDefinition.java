package weftex.store.copy;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import weftex.store.copy.SqlTokens.Kind;
import weftex.store.copy.SqlTokens.Token;

/**
 * A CREATE TABLE statement, taken apart at the commas between its columns, keys and constraints.
 */
final class TableDefinition {
  private static final Set<String> NO_COLUMN =
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

  private final String sql;
  private final List<List<Token>> elements = new ArrayList<>();

  /**
   * @param backslash whether a backslash in a string takes the next character as it is
   */
  TableDefinition(String sql, boolean backslash) {
    this.sql = sql;
    int depth = 0;
    List<Token> element = new ArrayList<>();
    for (Token token : SqlTokens.of(sql, backslash)) {
      if (token.is(")") && --depth == 0) {
        elements.add(element);
        break;
      }
      if (depth == 1 && token.is(",")) {
        elements.add(element);
        element = new ArrayList<>();
      } else if (depth > 0) {
        element.add(token);
      }
      depth += token.is("(") ? 1 : 0;
    }
  }

  private static boolean isColumn(List<Token> element) {
    Token first = element.get(0);
    return first.kind() == Kind.QUOTED || !NO_COLUMN.contains(SqlTokens.upper(first.text()));
  }

  private Optional<List<Token>> element(String column) {
    return elements.stream()
        .filter(element -> !element.isEmpty() && isColumn(element))
        .filter(element -> element.get(0).text().equalsIgnoreCase(column))
        .findFirst();
  }

  private String text(List<Token> tokens) {
    return sql.substring(tokens.get(0).from(), tokens.get(tokens.size() - 1).to());
  }

  /** The words that define a column, its name among them. */
  Optional<String> column(String name) {
    return element(name).map(this::text);
  }

  /** The literal after DEFAULT; empty if there is none, or if it is worked out by the server. */
  Optional<String> literalDefault(String column) {
    List<Token> tokens = element(column).orElse(List.of());
    for (int i = 1; i + 1 < tokens.size(); i++) {
      if (tokens.get(i).is("DEFAULT")) {
        return literal(tokens.subList(i + 1, tokens.size()));
      }
    }
    return Optional.empty();
  }

  /** Whether a column has a word of its definition, such as DEFAULT. */
  boolean says(String column, String word) {
    return element(column)
        .map(tokens -> tokens.subList(1, tokens.size()).stream().anyMatch(t -> t.is(word)))
        .orElse(false);
  }

  private Optional<String> literal(List<Token> tokens) {
    Token first = tokens.get(0);
    boolean called = tokens.size() > 1 && tokens.get(1).is("(");
    if (first.kind() == Kind.STRING || first.is("NULL") || first.text().matches("\\d+(\\.\\d+)?")) {
      return Optional.of(first.text());
    }
    boolean negative = first.is("-") && tokens.size() > 1;
    if (negative && tokens.get(1).text().matches("\\d+(\\.\\d+)?")) {
      return Optional.of("-" + tokens.get(1).text());
    }
    // b'0' and x'00' are two tokens without a blank between.
    boolean bits = first.text().matches("[bBxX]") && tokens.size() > 1 && !called;
    return bits && tokens.get(1).kind() == Kind.STRING && tokens.get(1).from() == first.to()
        ? Optional.of(text(tokens.subList(0, 2)))
        : Optional.empty();
  }

  /** An index inside of the statement. */
  record Index(String name, List<String> columns, String text) {}

  /** The indexes other than the primary key; foreign keys and checks are none. */
  List<Index> indexes() {
    List<Index> indexes = new ArrayList<>();
    for (List<Token> element : elements) {
      if (element.isEmpty() || isColumn(element)) {
        continue;
      }
      String first = SqlTokens.upper(element.get(0).text());
      int open = 0;
      while (open < element.size() && !element.get(open).is("(")) {
        open++;
      }
      boolean named = open > 0 && element.get(open - 1).kind() == Kind.QUOTED;
      if (named && !first.equals("CONSTRAINT") && !first.equals("FOREIGN")) {
        List<String> columns =
            element.subList(open, element.size()).stream()
                .filter(token -> token.kind() == Kind.QUOTED)
                .map(Token::text)
                .toList();
        indexes.add(new Index(element.get(open - 1).text(), columns, text(element)));
      }
    }
    return indexes;
  }

  /** An index by the statement that makes it. */
  static Index index(String sql, boolean backslash) {
    List<Token> tokens = SqlTokens.of(sql, backslash);
    int on = 0;
    while (on < tokens.size() && !tokens.get(on).is("ON")) {
      on++;
    }
    List<String> columns =
        tokens.subList(Math.min(tokens.size(), on + 2), tokens.size()).stream()
            .filter(Token::isName)
            .map(Token::text)
            .filter(word -> !word.equalsIgnoreCase("DESC") && !word.equalsIgnoreCase("ASC"))
            .toList();
    return new Index(tokens.get(Math.max(0, on - 1)).text(), columns, sql);
  }

  /**
   * A statement that makes a table or an index, with other names of tables. Names of foreign keys
   * fall away, since a database has each only once, and so does the next free number.
   */
  static String renamed(String sql, boolean backslash, UnaryOperator<String> names) {
    List<Token> tokens = SqlTokens.of(sql, backslash);
    StringBuilder renamed = new StringBuilder();
    int copied = 0;
    boolean index = isIndex(tokens);
    for (int i = 0; i < tokens.size(); i++) {
      Token token = tokens.get(i);
      boolean before =
          token.is("REFERENCES") || !index && i < 3 && token.is("TABLE") || index && token.is("ON");
      if (before) {
        int name = i + 1;
        while (tokens.get(name).is("IF")
            || tokens.get(name).is("NOT")
            || tokens.get(name).is("EXISTS")) {
          name++;
        }
        renamed.append(sql, copied, tokens.get(name).from());
        renamed
            .append('`')
            .append(names.apply(tokens.get(name).text()).replace("`", "``"))
            .append('`');
        copied = tokens.get(name).to();
        index = false;
      } else if (i + 2 < tokens.size()
          && token.is("CONSTRAINT")
          && tokens.get(i + 2).is("FOREIGN")) {
        renamed.append(sql, copied, token.from());
        copied = tokens.get(i + 2).from();
      } else if (i + 2 < tokens.size() && token.is("AUTO_INCREMENT") && tokens.get(i + 1).is("=")) {
        renamed.append(sql, copied, token.from());
        copied = Math.min(sql.length(), tokens.get(i + 2).to() + 1);
      }
    }
    return renamed.append(sql, Math.min(copied, sql.length()), sql.length()).toString().strip();
  }

  private static boolean isIndex(List<Token> tokens) {
    return tokens.stream().limit(3).anyMatch(token -> token.is("INDEX"));
  }

  /**
   * Whether a statement does no more than make a table, an index on it, or a column of it.
   *
   * @param realTable with prefix
   */
  static boolean onlyMakes(String sql, boolean backslash, String realTable) {
    List<Token> tokens = SqlTokens.of(sql, backslash);
    if (tokens.size() < 5 || tokens.stream().anyMatch(token -> token.is(";"))) {
      return false;
    }
    boolean create = tokens.get(0).is("CREATE");
    if (isIndex(tokens) && create) {
      for (int i = 2; i + 1 < tokens.size(); i++) {
        if (tokens.get(i).is("ON")) {
          return tokens.get(i + 1).text().equals(realTable);
        }
      }
      return false;
    }
    return (create || tokens.get(0).is("ALTER") && onlyAdds(tokens))
        && tokens.get(1).is("TABLE")
        && tokens.get(2).text().equals(realTable)
        && tokens.stream().noneMatch(token -> token.is("SELECT"));
  }

  /** Whether each part of an ALTER TABLE adds something. */
  private static boolean onlyAdds(List<Token> tokens) {
    int depth = 0;
    boolean adds = tokens.get(3).is("ADD");
    for (int i = 3; i + 1 < tokens.size(); i++) {
      depth += tokens.get(i).is("(") ? 1 : tokens.get(i).is(")") ? -1 : 0;
      adds &= depth > 0 || !tokens.get(i).is(",") || tokens.get(i + 1).is("ADD");
    }
    return adds;
  }
}
