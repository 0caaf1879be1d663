package weftex.core.changeset;

import java.util.Optional;
import weftex.core.change.ChangeSetHeader;
import weftex.core.row.Value;
import weftex.core.value.MalformedValue;
import weftex.core.value.Structure;
import weftex.core.value.Syntax;

/** Whether a written value has the form of the one before. */
final class FormCheck {

  private FormCheck() {}

  static void checkForm(ChangeSetHeader.ColumnType column, Value current, Value value) {
    Optional<Syntax> syntax =
        current instanceof Value.Text before
            ? Structure.detect(before.utf8()).map(Structure::syntax)
            : Optional.empty();
    if (syntax.isPresent()) {
      try {
        Structure.read(syntax.get(), ((Value.Text) value).utf8());
      } catch (MalformedValue e) {
        throw new IllegalArgumentException(
            column.name()
                + " would no longer be well-formed ("
                + syntax.get().label()
                + ", at byte "
                + e.offset()
                + ": "
                + e.getMessage()
                + ").");
      }
    }
  }
}
