package weftex.core.site;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import weftex.core.model.ColumnRule;
import weftex.core.row.Table;
import weftex.core.row.Value;

/**
 * A table and what it means, by facets.
 *
 * @param table its shape
 * @param references what its columns refer to
 * @param item how a person calls its rows
 * @param identity by what two of its rows are the same thing
 * @param ownership whose its rows are
 * @param parts what its rows are parts of
 * @param contents what its values hold
 * @param handling columns that are not merged like others
 * @param after what follows from an apply
 */
public record TableModel(
    Table table,
    List<Reference> references,
    Optional<ItemNaming> item,
    Identity identity,
    Ownership ownership,
    Parts parts,
    Contents contents,
    Handling handling,
    AfterEffects after) {

  public TableModel {
    references = List.copyOf(references);
  }

  /** Whether two states of a row differ only in what nobody meant to change. */
  public boolean meanTheSame(List<Value> one, List<Value> other) {
    for (int i = 0; i < one.size(); i++) {
      if (!one.get(i).equals(other.get(i))
          && !isOwn(i, one)
          && handling.columns().get(i) != ColumnRule.NEWER) {
        return false;
      }
    }
    return true;
  }

  /**
   * Whether two rows of one number may be one thing: they are of one kind, and have not each an
   * identity and a name of their own.
   */
  public boolean mayBeOne(List<Value> one, List<Value> other) {
    int kind = item.map(ItemNaming::kindFrom).orElse(-1);
    if (kind >= 0 && !one.get(kind).equals(other.get(kind))) {
      return false;
    }
    List<Integer> names = item.map(ItemNaming::name).orElse(List.of());
    return !identity.isOf(one)
        || !identity.isOf(other)
        || identity.columns().stream()
            .allMatch(i -> isReference(i) || one.get(i).equals(other.get(i)))
        || names.stream().anyMatch(i -> one.get(i).equals(other.get(i)));
  }

  private boolean isReference(int column) {
    return references.stream().anyMatch(reference -> reference.columns().contains(column));
  }

  /**
   * Whether a column is one that every copy has for itself in all rows, so that it is neither
   * merged nor compared.
   */
  public boolean isOwn(int column) {
    for (Counter counter : after.counters()) {
      if (counter.column() == column) {
        return true;
      }
    }
    return handling.isOwn(column);
  }

  /** The names of these columns, in capitals or not. */
  public Set<String> own() {
    Set<String> names = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
    for (int i = 0; i < table.columns().size(); i++) {
      if (isOwn(i)) {
        names.add(table.columns().get(i).name());
      }
    }
    return names;
  }

  /** Whether it is one in this row. */
  public boolean isOwn(int column, List<Value> row) {
    return isOwn(column) || handling.isMasked(column, row);
  }

  /** Positions that no merge of this row changes. */
  public Set<Integer> leftAlone(List<Value> row) {
    Set<Integer> positions = leftAlone();
    for (Handling.Masked made : handling.masked()) {
      if (made.when().holdsFor(row)) {
        positions.add(made.column());
      }
    }
    return positions;
  }

  /**
   * Positions that no merge changes: the row's own number, what is permanent, secret, counted or a
   * copy's own.
   */
  public Set<Integer> leftAlone() {
    Set<Integer> positions = new HashSet<>(handling.permanent());
    positions.addAll(ownership.secret());
    for (int i = 0; i < table.columns().size(); i++) {
      if (i == table.number() || isOwn(i)) {
        positions.add(i);
      }
    }
    return positions;
  }

  /** Whether a row with these values belongs to its copy and never travels. */
  public boolean stays(List<Value> values) {
    return after.clears().stream()
            .anyMatch(clear -> clear.of().isEmpty() && clear.rows().holdsFor(values))
        || ownership.stays(values);
  }
}
