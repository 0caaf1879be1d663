package weftex.core.address;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * The addresses of both copies, and what else differs between them by place alone.
 *
 * @param copies by the copy's name
 * @param pairs texts that stand for each other, by the copy's name, in the order in which they are
 *     looked for
 * @param beside addresses of other sites under the same roof, by the copy's name: texts may link to
 *     them
 * @param hostsAlone whether a host that stands alone, as in an e-mail address, is mapped too
 */
public record AddressBook(
    Map<String, CopyAddress> copies,
    List<Map<String, String>> pairs,
    List<Map<String, CopyAddress>> beside,
    boolean hostsAlone) {
  /** Nothing is known of either copy. */
  public static final AddressBook EMPTY = new AddressBook(Map.of(), List.of(), false);

  public AddressBook {
    copies = Map.copyOf(copies);
    pairs = List.copyOf(pairs);
    beside = List.copyOf(beside);
  }

  /** The addresses of a site that stands alone. */
  public AddressBook(
      Map<String, CopyAddress> copies, List<Map<String, String>> pairs, boolean hostsAlone) {
    this(copies, pairs, List.of(), hostsAlone);
  }

  /** The map from the addresses of one copy to those of another. */
  public AddressMap between(String from, String into) {
    if (from.equals(into)) {
      return AddressMap.NONE;
    }
    List<AddressMap.Pair> ordered =
        pairs.stream()
            .map(pair -> new AddressMap.Pair(pair.get(from), pair.get(into)))
            .filter(pair -> !pair.from().equals(pair.to()))
            .toList();
    List<AddressMap.Bases> others =
        beside.stream().map(site -> new AddressMap.Bases(site.get(from), site.get(into))).toList();
    return AddressMap.of(new AddressMap.Bases(of(from), of(into)), others, ordered, hostsAlone);
  }

  /** Where a copy's host stands alone in what is the other's; nothing where that is mapped. */
  public AddressMap mentions(String from, String into) {
    return hostsAlone
        ? AddressMap.NONE
        : new AddressBook(copies, List.of(), beside, true).between(from, into);
  }

  /** The hosts by which the copies are known, in lower case and in both spellings. */
  public Set<String> hosts() {
    Set<String> hosts = new TreeSet<>();
    for (CopyAddress copy : copies.values()) {
      if (copy.base().isPresent()) {
        hosts.add(copy.base().get().host());
        hosts.add(copy.base().get().unicodeHost());
      }
    }
    return hosts;
  }

  private CopyAddress of(String copy) {
    return copies.getOrDefault(copy, CopyAddress.NONE);
  }
}
