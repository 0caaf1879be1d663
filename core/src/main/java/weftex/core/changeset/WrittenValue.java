package weftex.core.changeset;

import java.util.Optional;
import weftex.core.change.ChangeSetHeader;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;

/** Reads a value that a reviewer wrote as text. */
public final class WrittenValue {
  private WrittenValue() {}

  /**
   * Whether a value can be written as text at all; if not, why, as a sentence.
   *
   * @param column what the column holds
   */
  public static Optional<String> refusal(ChangeSetHeader.ColumnType column, Value current) {
    if (current instanceof Value.Text text && !text.isWellFormed()) {
      return Optional.of("The value of " + column.name() + " is no UTF-8 and can't be edited.");
    }
    if (column.kind() == ValueKind.BINARY || current instanceof Value.Binary) {
      return Optional.of("The value of " + column.name() + " is bytes and can't be edited.");
    }
    if (current instanceof Value.Fresh || current instanceof Value.Pending) {
      return Optional.of(
          "The value of "
              + column.name()
              + " holds the number of a new row, which is not known yet; edit it on the site.");
    }
    return current instanceof Value.Digest
        ? Optional.of("The value of " + column.name() + " is not in the change set.")
        : Optional.empty();
  }

  /**
   * Reads.
   *
   * @param column what the column holds
   * @param current what stood there; a structured value must stay one
   * @throws IllegalArgumentException with a sentence if the text is no such value
   */
  public static Value parse(ChangeSetHeader.ColumnType column, Value current, String text) {
    refusal(column, current)
        .ifPresent(
            sentence -> {
              throw new IllegalArgumentException(sentence);
            });
    boolean whole =
        column.kind() == ValueKind.WHOLE
            || column.kind() == ValueKind.ANY && current instanceof Value.Whole;
    if (whole) {
      if (!text.strip().matches("-?\\d{1,20}")) {
        throw new IllegalArgumentException(column.name() + " takes a whole number.");
      }
      return new Value.Whole(new java.math.BigInteger(text.strip()));
    }
    if (column.kind() == ValueKind.DECIMAL || column.kind() == ValueKind.FLOATING) {
      if (!text.strip().matches("-?\\d+(\\.\\d+)?([eE][-+]?\\d+)?")) {
        throw new IllegalArgumentException(column.name() + " takes a number.");
      }
      return new Value.Decimal(text.strip());
    }
    Value value = Value.text(text);
    FormCheck.checkForm(column, current, value);
    return value;
  }
}
