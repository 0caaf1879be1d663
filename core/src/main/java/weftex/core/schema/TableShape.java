package weftex.core.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A table that is to be made; its name, which has a prefix, stands elsewhere. */
public record TableShape(
    List<ColumnShape> columns,
    List<IndexShape> indexes,
    List<ReferenceShape> references,
    TableOptions options) {

  public TableShape {
    columns = List.copyOf(columns);
    indexes = List.copyOf(indexes);
    references = List.copyOf(references);
    if (columns.isEmpty()) {
      throw new IllegalArgumentException("a table has no column");
    }
  }

  public Optional<ColumnShape> column(String name) {
    return columns.stream().filter(column -> column.name().equalsIgnoreCase(name)).findFirst();
  }

  /** The table in lines, for a person. */
  public List<String> words() {
    List<String> words = new ArrayList<>();
    columns.forEach(column -> words.add(column.words()));
    indexes.forEach(index -> words.add(index.words()));
    references.forEach(reference -> words.add(reference.words()));
    if (options.versioned()) {
      words.add("the server keeps the history of its rows");
    }
    return words;
  }
}
