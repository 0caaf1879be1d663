package weftex.core.schema;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * An index that is to be made.
 *
 * @param name empty for the primary key
 */
public record IndexShape(String name, Kind kind, List<Part> parts) {

  /** What an index is for. */
  public enum Kind {
    PRIMARY,
    UNIQUE,
    PLAIN,
    FULLTEXT,
    SPATIAL
  }

  /**
   * A column of an index.
   *
   * @param length how much of it; empty for all
   * @param collation by which it is ordered, where that is not the column's
   */
  public record Part(
      String column, Optional<Integer> length, boolean descending, Optional<String> collation) {
    public Part {
      Shapes.name(column);
      collation.ifPresent(Shapes::word);
      if (length.isPresent() && (length.get() < 1 || length.get() > 65535)) {
        throw new IllegalArgumentException("an index has an odd length");
      }
    }
  }

  public IndexShape {
    if (kind != Kind.PRIMARY) {
      Shapes.name(name);
    }
    parts = List.copyOf(parts);
    if (parts.isEmpty()) {
      throw new IllegalArgumentException("an index has no column");
    }
  }

  public List<String> columns() {
    return parts.stream().map(Part::column).toList();
  }

  /** The index in a line, for a person. */
  public String words() {
    String columns = parts.stream().map(Part::column).collect(Collectors.joining(", "));
    return switch (kind) {
      case PRIMARY -> "primary key (" + columns + ")";
      case UNIQUE -> "unique index " + name + " (" + columns + ")";
      case PLAIN -> "index " + name + " (" + columns + ")";
      case FULLTEXT -> "full-text index " + name + " (" + columns + ")";
      case SPATIAL -> "spatial index " + name + " (" + columns + ")";
    };
  }
}
