package weftex.cli.workplace;

import java.util.Optional;
import weftex.cli.config.Pair;
import weftex.core.address.Address;
import weftex.core.address.CopyAddress;
import weftex.store.Refusal;
import weftex.store.copy.Copy;

/**
 * Whether the addresses in weftex.yaml are those by which the copies know themselves: with wrong
 * ones live would get staging's addresses, or every page would seem to differ.
 */
public final class AddressCheck {
  private static final String REFUSED = " Nothing was changed.";

  private AddressCheck() {}

  /**
   * Refuses addresses that are missing, wrong or exchanged. A copy's own setting may still have the
   * other copy's address where a configuration file of the CMS overrides it.
   */
  public static void check(Pair pair, Copy one, Copy other) throws Refusal {
    Known first = Known.of(pair, one);
    Known second = Known.of(pair, other);
    if (first.own().isEmpty() || second.own().isEmpty()) {
      return;
    }
    if (first.isOf(second) && second.isOf(first)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          "weftex.yaml has the two copies exchanged: "
              + first.words()
              + ", and "
              + second.words()
              + "."
              + REFUSED,
          "Exchange 'copies.staging' and 'copies.live' in weftex.yaml, or their addresses if only"
              + " those are wrong.");
    }
    for (Known known : new Known[] {first, second}) {
      Known opposite = known == first ? second : first;
      if (known.said().isEmpty() && !first.own().equals(second.own())) {
        throw missing(known);
      }
      if (known.said().isPresent()
          && !known.isAt(known.said().get())
          && !opposite.said().map(known::isAt).orElse(false)) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            "The address of " + known.copy() + " is wrong: " + known.words() + "." + REFUSED,
            "Correct 'copies."
                + known.copy()
                + ".address' in weftex.yaml, or the setting on "
                + known.copy()
                + ".");
      }
    }
  }

  private static Refusal missing(Known known) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "weftex.yaml does not say by what address "
            + known.copy()
            + " knows itself, so the two copies' addresses would be taken for edits; its own setting says "
            + known.own().get()
            + "."
            + REFUSED,
        "Add 'address: \"" + known.own().get() + "\"' to copies." + known.copy() + ".");
  }

  /**
   * A copy's address.
   *
   * @param said in weftex.yaml
   * @param own in the copy's own setting; empty if there is none, or none that is an address
   */
  private record Known(String copy, Optional<CopyAddress> said, Optional<Address> own) {

    static Known of(Pair pair, Copy copy) throws Refusal {
      Optional<CopyAddress> said =
          Optional.ofNullable(pair.addresses().copies().get(copy.name()))
              .filter(address -> address.base().isPresent());
      Optional<Address> own = OwnAddress.said(pair, copy).flatMap(OwnAddress::parsed);
      return new Known(copy.name(), said, own);
    }

    /** Whether the copy knows itself by the address that weftex.yaml gives to another one. */
    boolean isOf(Known other) {
      return other.said().map(address -> isAt(address) && !isAtOwn()).orElse(false);
    }

    private boolean isAtOwn() {
      return said.map(this::isAt).orElse(false);
    }

    boolean isAt(CopyAddress address) {
      Address base = address.base().orElseThrow();
      Address found = own.orElseThrow();
      return base.equals(found) || address.twin() && base.equals(found.otherWww());
    }

    String words() {
      return copy
          + " knows itself as "
          + own.orElseThrow()
          + said.map(address -> ", and weftex.yaml says " + address.base().orElseThrow())
              .orElse("");
    }
  }
}
