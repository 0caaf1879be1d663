package weftex.core.model;

import java.util.List;
import java.util.Map;

/**
 * How a person calls the rows of a table.
 *
 * @param kind what such a row is, such as {@code setting}
 * @param kindFrom the column that says what it is, where rows of several kinds share a table
 * @param in another table that has the column {@code kindFrom}
 * @param by the column there that refers to these rows
 * @param kinds words for the values of that column; a value without a word is its own word
 * @param name columns that name it, joined by spaces
 * @param path columns that are its part of the public path, joined by slashes
 * @param under the column that refers to the row of this table under whose path it stands
 * @param author the column that says who made it: a name, or a reference to somebody with a name
 * @param changed the column that says when it was last changed; unless said, one whose rule is
 *     {@code newer}
 */
public record ItemRule(
    String kind,
    String kindFrom,
    String in,
    String by,
    Map<String, String> kinds,
    List<String> name,
    List<String> path,
    String under,
    String author,
    String changed) {
  public ItemRule {
    kind = kind == null ? "" : kind;
    kindFrom = kindFrom == null ? "" : kindFrom;
    in = in == null ? "" : in;
    by = by == null ? "" : by;
    kinds = kinds == null ? Map.of() : Map.copyOf(kinds);
    name = name == null ? List.of() : List.copyOf(name);
    path = path == null ? List.of() : List.copyOf(path);
    under = under == null ? "" : under;
    author = author == null ? "" : author;
    changed = changed == null ? "" : changed;
    if (kind.isEmpty() == kindFrom.isEmpty()) {
      throw new IllegalArgumentException("an item has either 'kind' or 'kind-from'");
    }
    if (in.isEmpty() != by.isEmpty() || !in.isEmpty() && kindFrom.isEmpty()) {
      throw new IllegalArgumentException(
          "'in' and 'by' of an item belong together, with 'kind-from'");
    }
  }
}
