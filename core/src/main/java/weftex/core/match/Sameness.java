package weftex.core.match;

import java.math.BigInteger;
import java.util.Map;
import java.util.Set;
import weftex.core.row.RowName;

/**
 * What people say of which rows of the two copies are the same thing.
 *
 * @param people who on the target is the same person as somebody on the source, by a name that the
 *     model knows people by
 * @param apart rows that the source added and that stay things of their own, though the target
 *     added one of the same identity
 * @param same the ID on the target of what is the same thing as a row that the source added, though
 *     nothing in the two says so
 */
public record Sameness(
    Map<String, String> people, Set<RowName> apart, Map<RowName, BigInteger> same) {
  public Sameness {
    people = Map.copyOf(people);
    apart = Set.copyOf(apart);
    same = Map.copyOf(same);
  }
}
