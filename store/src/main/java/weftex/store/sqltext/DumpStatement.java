package weftex.store.sqltext;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.Refusal;
import weftex.store.schema.SqlTokens;

/**
 * A statement of a file that a server's dump client or a hosting panel wrote. Such a file is
 * hostile until proven otherwise: only tables, rows of plain values, keys and indexes are made.
 * What the loading does by itself is passed over, and so are views, triggers and routines, which
 * stay text.
 */
public final class DumpStatement {
  private static final Pattern INSERT =
      Pattern.compile(
          "(?is)(?:INSERT|REPLACE)(?: IGNORE)? INTO "
              + SavedStatement.NAME
              + "\\s*(?:\\((?:[^()'\"`]|"
              + SavedStatement.QUOTED
              + ")*\\)\\s*)?VALUES");
  private static final Pattern TABLE =
      Pattern.compile("(?is)CREATE TABLE (IF NOT EXISTS )?" + SavedStatement.NAME + "\\s*\\(.*");
  private static final Pattern ALTER =
      Pattern.compile(
          "(?is)ALTER TABLE (ONLY )?"
              + SavedStatement.NAME
              + "\\s+(ADD|MODIFY|AUTO_INCREMENT|COMMENT|ENABLE KEYS|DISABLE KEYS)\\b.*");
  private static final Pattern KEYS = Pattern.compile("(?is).*\\b(ENABLE|DISABLE) KEYS\\s*");
  private static final Pattern INDEX = Pattern.compile("(?is)CREATE (UNIQUE |FULLTEXT )?INDEX .*");
  private static final Pattern PASSED_OVER =
      Pattern.compile(
          "(?is)(SET|LOCK TABLES|UNLOCK TABLES|START TRANSACTION|BEGIN|COMMIT|PRAGMA"
              + "|DROP (TABLE|VIEW|TRIGGER|PROCEDURE|FUNCTION|EVENT|SEQUENCE))\\b.*");
  private static final Pattern STAYS_TEXT =
      Pattern.compile(
          "(?is)CREATE (OR REPLACE )?((ALGORITHM|DEFINER) ?= ?\\S+ |SQL SECURITY \\w+ |AGGREGATE |TEMP )*"
              + "(VIEW|TRIGGER|PROCEDURE|FUNCTION|EVENT|SEQUENCE)\\b.*");
  private static final Pattern NAMES =
      Pattern.compile("(?is)(?:/\\*![0-9]* ?)?SET NAMES '?(\\w+)'?.*");
  private static final Pattern DATABASE =
      Pattern.compile(
          "(?is)(?:USE |CREATE DATABASE (?:/\\*![0-9]* ?IF NOT EXISTS ?\\*/ ?|IF NOT EXISTS )?)"
              + SavedStatement.NAME
              + ".*");
  private static final Pattern SEQUENCE =
      Pattern.compile(
          "(?is)(DELETE FROM sqlite_sequence( WHERE name = '([^']|'')*')?|INSERT INTO \"?sqlite_sequence\"?(?: \\(name, seq\\))? VALUES ?\\('([^']|'')*', ?\\d+\\))");

  /** What may stand in values outside of quotes, but for numbers. */
  private static final Set<String> WORDS =
      Set.of(
          "NULL",
          "TRUE",
          "FALSE",
          "DEFAULT",
          "X",
          "B",
          "N",
          "REPLACE",
          "CHAR",
          "CAST",
          "AS",
          "TEXT",
          "UNISTR",
          "_BINARY",
          "_UTF8MB4",
          "_UTF8MB3",
          "_UTF8",
          "_LATIN1",
          "ST_GEOMFROMTEXT",
          "GEOMFROMTEXT",
          "POINTFROMTEXT");

  private static final Pattern NUMBER =
      Pattern.compile("0x[0-9a-fA-F]+|0b[01]+|[0-9][0-9.]*([Ee][0-9]*)?");

  /** What would lead a new table out of its database. */
  private static final Set<String> LEADS_OUT =
      Set.of("SELECT", "DIRECTORY", "CONNECTION", "UNION", "TABLESPACE");

  private final boolean backslash;
  private String database = "";

  /** What becomes of a statement. */
  public record Told(Fate fate, Optional<Charset> charset) {}

  public enum Fate {
    EXECUTED,
    PASSED_OVER,
    /** A view, a trigger or a routine. */
    STAYS_TEXT
  }

  public DumpStatement(boolean backslash) {
    this.backslash = backslash;
  }

  /**
   * Tells a statement.
   *
   * @throws Refusal with its line, if it is none that a dump has
   */
  public Told told(SqlStatements.Statement statement) throws Refusal {
    String text = statement.text();
    String front = text.substring(0, Math.min(text.length(), 1 << 16));
    Matcher names = NAMES.matcher(front);
    if (names.matches()) {
      return new Told(Fate.PASSED_OVER, Optional.of(charset(names.group(1), statement)));
    }
    Matcher insert = INSERT.matcher(front);
    if (insert.lookingAt()) {
      return executed(
          Values.isPlain(text, insert.end(), backslash, DumpStatement::isValue), statement);
    }
    if (SEQUENCE.matcher(front).matches()) {
      return executed(true, statement);
    }
    if (front.startsWith("/*!")
        || front.startsWith("/*M!")
        || STAYS_TEXT.matcher(front).matches()) {
      boolean made =
          front.matches("(?is).*\\bCREATE\\b.*\\b(VIEW|TRIGGER|PROCEDURE|FUNCTION|EVENT)\\b.*");
      return passed(made ? Fate.STAYS_TEXT : Fate.PASSED_OVER);
    }
    if (TABLE.matcher(front).matches()
        || INDEX.matcher(front).matches()
        || ALTER.matcher(front).matches()) {
      return KEYS.matcher(text).matches()
          ? passed(Fate.PASSED_OVER)
          : executed(stays(text), statement);
    }
    Matcher used = DATABASE.matcher(front);
    if (used.matches()) {
      use(name(used), statement);
      return passed(Fate.PASSED_OVER);
    }
    if (PASSED_OVER.matcher(front).matches()
        && !front.matches("(?is)SET (GLOBAL|PERSIST|PASSWORD)\\b.*")) {
      return passed(Fate.PASSED_OVER);
    }
    throw foreign(statement);
  }

  private static Told passed(Fate fate) {
    return new Told(fate, Optional.empty());
  }

  private static Told executed(boolean fits, SqlStatements.Statement statement) throws Refusal {
    if (!fits) {
      throw foreign(statement);
    }
    return new Told(Fate.EXECUTED, Optional.empty());
  }

  /** A server executes what stands in some comments, so that is looked at, too. */
  private boolean stays(String text) {
    String open = text.replaceAll("/\\*M?![0-9]*", " ").replace("*/", " ");
    List<SqlTokens.Token> tokens = SqlTokens.of(open, backslash);
    return tokens.stream().noneMatch(t -> LEADS_OUT.stream().anyMatch(word -> t.is(word)));
  }

  private void use(String name, SqlStatements.Statement statement) throws Refusal {
    if (!database.isEmpty() && !database.equals(name)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "The file has more than one database: "
              + database
              + ", and from line "
              + statement.line()
              + " on "
              + name
              + ". Nothing was changed.",
          "Export the database of the site alone.");
    }
    database = name;
  }

  private static String name(Matcher matcher) {
    return matcher.group(1) != null
        ? matcher.group(1)
        : matcher.group(2) != null ? matcher.group(2) : matcher.group(3);
  }

  private static Charset charset(String name, SqlStatements.Statement statement) throws Refusal {
    return switch (name.toLowerCase(Locale.ROOT)) {
      case "utf8", "utf8mb3", "utf8mb4", "default" -> StandardCharsets.UTF_8;
      // What the servers call latin1 is this one.
      case "latin1" -> Charset.forName("windows-1252");
      default ->
          throw new Refusal(
              Refusal.Kind.WRONG_INPUT,
              "Line "
                  + statement.line()
                  + " of the file says that it is in "
                  + name
                  + ", and only utf8, utf8mb4 and latin1 are read. Nothing was changed.",
              "Export it with --default-character-set=utf8mb4.");
    };
  }

  private static boolean isValue(String text, int from, int to) {
    return NUMBER.matcher(text).region(from, to).matches()
        || to - from < 16 && WORDS.contains(text.substring(from, to).toUpperCase(Locale.ROOT));
  }

  private static Refusal foreign(SqlStatements.Statement statement) {
    String begins = statement.text().replaceAll("\\s+", " ");
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "Line "
            + statement.line()
            + " of the file has a statement that no dump of a site has: '"
            + begins.substring(0, Math.min(60, begins.length())).replaceAll("\\p{Cntrl}", "?")
            + "'. Nothing was changed.",
        "Export the tables of the site and their rows alone.");
  }
}
