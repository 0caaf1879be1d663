package weftex.cli.workplace;

import java.util.Optional;
import weftex.cli.config.Pair;
import weftex.core.address.Address;
import weftex.core.address.CopyAddress;
import weftex.core.model.SiteModel;
import weftex.store.Refusal;
import weftex.store.copy.Copy;

/** By what address rows know themselves, which tells whose they are. */
public final class OwnAddress {
  private OwnAddress() {}

  /** What a copy's own setting says; empty if there is none. */
  public static Optional<String> said(Pair pair, Copy copy) throws Refusal {
    Optional<SiteModel.AddressRule> rule = pair.model().ownAddress();
    return rule.isEmpty()
        ? Optional.empty()
        : copy.lookup().cell(rule.get().table(), rule.get().where(), rule.get().column());
  }

  /** The address that weftex.yaml gives to a copy. */
  public static Optional<Address> configured(Pair pair, String copy) {
    return Optional.ofNullable(pair.addresses().copies().get(copy)).flatMap(CopyAddress::base);
  }

  /** Whether a setting says that address, with or without {@code www.}. */
  public static boolean isAt(String own, Address address) {
    return parsed(own)
        .filter(found -> address.equals(found) || address.equals(found.otherWww()))
        .isPresent();
  }

  static Optional<Address> parsed(String text) {
    try {
      return Optional.of(Address.parse(text));
    } catch (IllegalArgumentException e) {
      return Optional.empty();
    }
  }
}
