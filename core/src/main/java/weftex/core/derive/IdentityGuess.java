package weftex.core.derive;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import weftex.core.row.Table;

/** By what rows of a table are told apart. */
final class IdentityGuess {

  private static final List<String> IDENTITIES =
      List.of("slug", "code", "login", "sku", "key", "name", "path", "email", "url");

  private final Evidence evidence;

  IdentityGuess(Evidence evidence) {
    this.evidence = evidence;
  }

  void identity(Table table, List<DerivedTable.Guess> guesses) throws IOException {
    if (!table.uniqueKeys().isEmpty()) {
      guesses.add(
          new DerivedTable.Guess(
              "",
              "",
              "known by its unique key ("
                  + String.join(", ", table.names(table.uniqueKeys().get(0)))
                  + "), as the schema shows"));
      return;
    }
    for (String name : IDENTITIES) {
      Optional<Integer> column = ModelDeriver.named(table, name);
      if (column.isPresent() && table.isNumbered()) {
        Evidence.Share share = evidence.distinct(table, column.get());
        if (share.of() > 1 && share.found() == share.of()) {
          guesses.add(
              new DerivedTable.Guess(
                  "identity",
                  "[" + ReferredTable.column(table, column.get()) + "]",
                  "all " + share.of() + " values differ"));
          return;
        }
      }
    }
  }
}
