package weftex.core.address;

import java.util.Optional;

/** Finds one kind of address around a needle. */
interface Rule {
  /** What stands in every address of this kind. */
  Needle needle();

  /** The address around a place where the needle stands; empty if it is none, or a longer one. */
  Optional<Hit> around(byte[] text, int at);
}
