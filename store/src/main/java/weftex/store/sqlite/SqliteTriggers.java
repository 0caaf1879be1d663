package weftex.store.sqlite;

import java.util.List;
import weftex.store.schema.SqlTokens;

/** The triggers of a file's tables. */
final class SqliteTriggers {

  private SqliteTriggers() {}

  static String when(List<SqlTokens.Token> tokens) {
    String timing = "AFTER";
    for (SqlTokens.Token token : tokens) {
      if (token.is("BEFORE") || token.is("INSTEAD")) {
        timing = "BEFORE";
      } else if (token.is("INSERT") || token.is("UPDATE") || token.is("DELETE")) {
        return timing + " " + SqlTokens.upper(token.text());
      }
    }
    return "";
  }
}
