package weftex.cli.command;

import java.util.Optional;
import weftex.cli.config.PairWriter;
import weftex.core.address.Address;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;

/** Reads the words for where a copy is. */
final class PairedPlace {

  private PairedPlace() {}

  static int port(String said) {
    return said == null ? CopySpec.Server.DEFAULT_PORT : Integer.parseInt(said);
  }

  static String checked(String address) throws Refusal {
    if (address.isEmpty() || address.equals("-")) {
      return "";
    }
    try {
      Address.parse(address);
      return address;
    } catch (IllegalArgumentException e) {
      throw refusal(e.getMessage() + ".", "Write it as a browser shows it, with its scheme.");
    }
  }

  static boolean isAddress(String text) {
    try {
      Address.parse(text);
      return true;
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  static Optional<String> password(String copy, String source) throws Refusal {
    if (source.isEmpty()) {
      return Optional.empty();
    }
    int colon = source.indexOf(':');
    String kind = colon < 0 ? "" : source.substring(0, colon);
    if (!kind.equals("variable") && !kind.equals("file")) {
      throw refusal(
          "--" + copy + "-password takes variable:NAME or file:FILE, never the password itself.",
          "Put the password into a variable or a file and name that.");
    }
    return Optional.of(kind + ": " + yaml(source.substring(colon + 1)));
  }

  static String yaml(String text) {
    return PairWriter.quoted(text);
  }

  static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", next);
  }
}
