package weftex.store.sqltext;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.Refusal;
import weftex.store.schema.SqlTokens;

/**
 * A statement of a saved copy, told by how it begins. A file may come from anywhere, so only what a
 * saved copy has is let through: its own tables, rows of plain values, indexes, views and triggers.
 *
 * @param table the table that it makes or fills; empty for others
 * @param body where the columns of an INSERT begin; 0 for others
 */
public record SavedStatement(Kind kind, String text, String table, int body) {
  /** A name, quoted or not. */
  static final String NAME = "(?:`((?:[^`]|``)+)`|\"((?:[^\"]|\"\")+)\"|([\\w$]+))";

  private static final Pattern TABLE = Pattern.compile("(?is)CREATE TABLE " + NAME + ".*");

  /** A quoted name. */
  static final String QUOTED = "`(?:[^`]|``)*`|\"(?:[^\"]|\"\")*\"";

  private static final Pattern INSERT =
      Pattern.compile(
          "(?is)INSERT INTO "
              + NAME
              + "(?<columns>\\s*\\((?:[^()'\"`]|"
              + QUOTED
              + ")*\\)\\s*VALUES)");
  private static final Pattern INDEX = Pattern.compile("(?is)CREATE (UNIQUE )?INDEX .*");
  private static final Pattern VIEW =
      Pattern.compile("(?is)CREATE (ALGORITHM=\\w+ )?(DEFINER=\\S+ )?(SQL SECURITY \\w+ )?VIEW .*");
  private static final Pattern TRIGGER = Pattern.compile("(?is)CREATE (DEFINER=\\S+ )?TRIGGER .*");
  private static final Pattern DROP = Pattern.compile("(?is)DROP (TABLE|VIEW) IF EXISTS .*");
  private static final String SETTING = "@?\\w+ ?= ?('[^'\\\\]*'|@{0,2}\\w+)";
  private static final Pattern SET =
      Pattern.compile("(?is)SET (NAMES \\w+|" + SETTING + "(, ?" + SETTING + ")*)");
  private static final Pattern GLOBAL = Pattern.compile("(?i)SET (GLOBAL|PERSIST|PASSWORD)\\b.*");
  private static final Pattern SEQUENCE =
      Pattern.compile(
          "(?i)(DELETE FROM sqlite_sequence WHERE name = '([^']|'')*'|INSERT INTO sqlite_sequence"
              + " \\(name, seq\\) VALUES \\('([^']|'')*', \\d+\\))");
  private static final Pattern FRAME =
      Pattern.compile("(?i)PRAGMA foreign_keys = OFF|BEGIN TRANSACTION|COMMIT");

  /** What may stand in values outside of quotes, but for numbers. */
  private static final Set<String> WORDS =
      Set.of("NULL", "X", "REPLACE", "CHAR", "CAST", "AS", "TEXT");

  private static final Pattern NUMBER =
      Pattern.compile("0x[0-9a-fA-F]+|[0-9][0-9.]*(E[0-9]*|e[0-9]*)?");

  /** What would lead a new table out of its database. */
  private static final Set<String> LEADS_OUT = Set.of("SELECT", "DIRECTORY", "CONNECTION", "UNION");

  /** What a statement does. */
  public enum Kind {
    TABLE,
    ROWS,
    INDEX,
    VIEW,
    TRIGGER,
    SETTING,
    SEQUENCE,
    /** What the loading does by itself. */
    NOTHING
  }

  /**
   * Tells a statement.
   *
   * @param tables those that the file says that it has
   * @throws Refusal with the line, if it is none that a saved copy has
   */
  public static SavedStatement of(
      SqlStatements.Statement statement, List<String> tables, boolean backslash) throws Refusal {
    String text = statement.text();
    String front = text.substring(0, Math.min(text.length(), 1 << 16));
    Matcher insert = INSERT.matcher(front);
    if (SEQUENCE.matcher(front).matches()) {
      return new SavedStatement(Kind.SEQUENCE, text, "", 0);
    }
    if (insert.lookingAt()) {
      String table = name(insert);
      boolean plain = Values.isPlain(text, insert.end(), backslash, SavedStatement::isValue);
      return checked(
          new SavedStatement(Kind.ROWS, text, table, insert.start("columns")),
          tables,
          plain,
          statement);
    }
    Matcher table = TABLE.matcher(text);
    if (table.matches()) {
      boolean stays =
          SqlTokens.of(text, backslash).stream()
              .noneMatch(t -> LEADS_OUT.stream().anyMatch(word -> t.is(word)));
      return checked(
          new SavedStatement(Kind.TABLE, text, name(table), 0), tables, stays, statement);
    }
    Optional<Kind> kind = other(front, text);
    return new SavedStatement(kind.orElseThrow(() -> foreign(statement)), text, "", 0);
  }

  private static Optional<Kind> other(String front, String text) {
    if (DROP.matcher(front).matches() || FRAME.matcher(text).matches()) {
      return Optional.of(Kind.NOTHING);
    }
    if (SET.matcher(text).matches() && !GLOBAL.matcher(text).matches()) {
      return Optional.of(Kind.SETTING);
    }
    if (INDEX.matcher(front).matches()) {
      return Optional.of(Kind.INDEX);
    }
    if (VIEW.matcher(front).matches()) {
      return Optional.of(Kind.VIEW);
    }
    return TRIGGER.matcher(front).matches() ? Optional.of(Kind.TRIGGER) : Optional.empty();
  }

  private static String name(Matcher matcher) {
    return matcher.group(1) != null
        ? matcher.group(1).replace("``", "`")
        : matcher.group(2) != null ? matcher.group(2).replace("\"\"", "\"") : matcher.group(3);
  }

  private static SavedStatement checked(
      SavedStatement told, List<String> tables, boolean fits, SqlStatements.Statement statement)
      throws Refusal {
    if (!fits || !tables.contains(told.table())) {
      throw foreign(statement);
    }
    return told;
  }

  private static Refusal foreign(SqlStatements.Statement statement) {
    String begins = statement.text().replaceAll("\\s+", " ");
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "Line "
            + statement.line()
            + " of the file has a statement that no saved copy has: '"
            + begins.substring(0, Math.min(60, begins.length())).replaceAll("\\p{Cntrl}", "?")
            + "'. Nothing was changed.",
        "Load such a file with the database's own client, if you trust it.");
  }

  private static boolean isValue(String text, int from, int to) {
    return NUMBER.matcher(text).region(from, to).matches()
        || to - from < 8 && WORDS.contains(text.substring(from, to).toUpperCase(Locale.ROOT));
  }
}
