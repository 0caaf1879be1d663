package weftex.store.dump;

import java.sql.Connection;
import java.sql.SQLException;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.Connecting;
import weftex.store.database.CopySpec;

/** An empty database that a copy is put into. */
public final class NewDatabase {
  private NewDatabase() {}

  /**
   * Makes it, unless it is there and empty.
   *
   * @throws Refusal if it has tables, or can't be made
   */
  public static void make(CopySpec spec) throws Refusal {
    DumpDialect words = DumpDialect.of(spec);
    try {
      words.makeScratch(spec);
    } catch (Refusal e) {
      throw new Refusal(
          e.kind(),
          e.reason(),
          "Make an empty one by hand, give the user of "
              + spec.name()
              + " all rights to it, and name it.",
          e);
    }
    try (Connection connection = Connecting.open(spec)) {
      if (!words.contents(connection, spec.withPrefix("")).tables().isEmpty()) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            spec.withPrefix("").place() + " has tables already. Nothing was changed.",
            "Name an empty database, or a new one.");
      }
    } catch (SQLException e) {
      throw new Refusal(
          Refusal.Kind.UNREACHABLE,
          spec.place() + " can't be looked at: " + FailureWords.of(e) + ". Nothing was changed.",
          "Make an empty one by hand, and name it.",
          e);
    }
  }
}
