package weftex.core.signoff;

import java.nio.charset.StandardCharsets;

/**
 * What somebody signs of a change set.
 *
 * @param what {@code approval} or {@code draft}
 * @param sha256 of the bytes that it is about, in hexadecimal
 * @param at when, as an ISO 8601 instant
 * @param by who, in words
 */
public record Statement(String what, String sha256, String at, String by) {

  /** The bytes that are signed: four lines, each ended by a line feed, the name last. */
  public byte[] bytes() {
    return ("weftex " + what + "\nsha256 " + sha256 + "\nat " + at + "\nby " + by + "\n")
        .getBytes(StandardCharsets.UTF_8);
  }
}
