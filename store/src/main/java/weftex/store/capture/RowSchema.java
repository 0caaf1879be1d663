package weftex.store.capture;

import java.util.ArrayList;
import java.util.List;
import org.apache.avro.Schema;
import weftex.core.row.Column;
import weftex.core.row.Table;

/**
 * The Avro schema of a table's rows: the sort key, the size of the rest, then one field a column,
 * each of the same union.
 */
final class RowSchema {
  private RowSchema() {}

  static Schema of(Table table) {
    Schema digits = Schema.create(Schema.Type.STRING);
    Schema exact =
        Schema.createRecord(
            "Exact",
            "A whole number beyond 64 signed bits.",
            "weftex",
            false,
            List.of(new Schema.Field("digits", digits)));
    Schema decimal =
        Schema.createRecord(
            "Decimal",
            "A decimal or floating-point number as the server writes it.",
            "weftex",
            false,
            List.of(new Schema.Field("digits", digits)));
    Schema value =
        Schema.createUnion(
            Schema.create(Schema.Type.NULL),
            Schema.create(Schema.Type.STRING),
            Schema.create(Schema.Type.BYTES),
            Schema.create(Schema.Type.LONG),
            exact,
            decimal);
    List<Schema.Field> fields = new ArrayList<>();
    fields.add(new Schema.Field("_key", Schema.create(Schema.Type.BYTES)));
    fields.add(new Schema.Field("_size", Schema.create(Schema.Type.LONG)));
    for (int i = 0; i < table.columns().size(); i++) {
      Column column = table.columns().get(i);
      String plain = column.name().matches("[A-Za-z][A-Za-z0-9_]*") ? column.name() : "column" + i;
      Schema.Field field = new Schema.Field(plain, value);
      field.addProp("column", column.name());
      fields.add(field);
    }
    return Schema.createRecord("Row", "A row of " + table.name() + ".", "weftex", false, fields);
  }
}
