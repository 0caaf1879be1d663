package weftex.store.schema;

import java.util.Optional;
import weftex.core.schema.Collated;
import weftex.core.schema.TableOptions;

/** Reads what the definition of a table says behind the columns. */
final class OptionsReader {
  private final DefinitionReader in;
  private Optional<String> engine = Optional.empty();
  private Optional<String> charset = Optional.empty();
  private Optional<String> collation = Optional.empty();
  private Optional<String> rowFormat = Optional.empty();
  private String comment = "";
  private boolean versioned;
  private boolean withoutRowNumber;

  OptionsReader(DefinitionReader in) {
    this.in = in;
  }

  /**
   * Reads them to the definition's end.
   *
   * @throws TableDefinition.Beyond if it says more than a shape holds
   */
  TableOptions read() throws TableDefinition.Beyond {
    while (!in.atEnd()) {
      in.skip("DEFAULT");
      if (!isStored() && !isSaid() && !in.skip(",")) {
        throw new TableDefinition.Beyond(
            "its definition has " + in.next().text() + " behind the columns");
      }
    }
    return new TableOptions(
        engine, new Collated(charset, collation), rowFormat, comment, versioned, withoutRowNumber);
  }

  /** How rows and texts are stored. */
  private boolean isStored() throws TableDefinition.Beyond {
    if (in.skip("ENGINE")) {
      engine = Optional.of(in.option());
    } else if (in.skip("CHARSET")) {
      charset = Optional.of(in.option());
    } else if (in.skip("COLLATE")) {
      collation = Optional.of(in.option());
    } else if (in.skip("ROW_FORMAT")) {
      rowFormat = Optional.of(in.option());
    } else {
      return false;
    }
    return true;
  }

  private boolean isSaid() throws TableDefinition.Beyond {
    if (in.skip("AUTO_INCREMENT")) {
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
    } else {
      return false;
    }
    return true;
  }
}
