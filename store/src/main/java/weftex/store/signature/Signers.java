package weftex.store.signature;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.sshkey.KeyProblem;
import weftex.store.sshkey.SshKey;

/**
 * Whose keys count: a file as {@code ssh-keygen -Y verify} reads it (ALLOWED SIGNERS in its
 * manual), a line for each key with the name of its owner before it.
 */
public final class Signers {
  private static final Pattern OPTION =
      Pattern.compile("\\G([a-z-]+)(?:=\"((?:[^\"\\\\]|\\\\.)*)\")?,?");

  private static final Pattern TIME = Pattern.compile("(\\d{8})(\\d{4}(?:\\d{2})?)?(Z?)");

  private final Path file;
  private final List<Signer> signers;

  private Signers(Path file, List<Signer> signers) {
    this.file = file;
    this.signers = signers;
  }

  /**
   * A key and whose it is.
   *
   * @param after from when it counts
   * @param before until when
   */
  private record Signer(
      String name,
      SshKey key,
      List<String> namespaces,
      Optional<Instant> after,
      Optional<Instant> before) {

    /** Why a signature by it does not count at a time; empty if it does. */
    Optional<String> objection(Instant at) {
      if (!namespaces.isEmpty() && !namespaces.contains(SshSignature.NAMESPACE)) {
        return Optional.of(
            "the key of " + name + " is for " + String.join(", ", namespaces) + " alone");
      }
      if (after.filter(at::isBefore).isPresent()) {
        return Optional.of("the key of " + name + " counts from " + after.get() + " on");
      }
      return before
          .filter(end -> !at.isBefore(end))
          .map(end -> "the key of " + name + " counted until " + end);
    }
  }

  /**
   * Reads the file.
   *
   * @throws Refusal if it is not there, or a line of it is not understood
   */
  public static Signers read(Path file) throws Refusal {
    List<String> lines;
    try {
      lines = Files.readAllLines(file);
    } catch (IOException e) {
      throw new Refusal(
          Refusal.Kind.UNREACHABLE,
          "The file of signers can't be read: " + FailureWords.of(e) + ". Nothing was changed.",
          "docs/security.md says what stands in it.",
          e);
    }
    List<Signer> signers = new ArrayList<>();
    for (int i = 0; i < lines.size(); i++) {
      String line = lines.get(i).strip();
      if (!line.isEmpty() && !line.startsWith("#")) {
        try {
          signers.add(signer(line));
        } catch (KeyProblem e) {
          throw new Refusal(
              Refusal.Kind.WRONG_INPUT,
              "Line "
                  + (i + 1)
                  + " of "
                  + file
                  + " names no signer: "
                  + e.getMessage()
                  + ". Nothing was changed.",
              "Write 'NAME KIND KEY', such as 'mira@skerrow.example ssh-ed25519 AAAA…'.",
              e);
        }
      }
    }
    return new Signers(file, signers);
  }

  private static Signer signer(String line) throws KeyProblem {
    boolean quoted = line.startsWith("\"");
    int end = quoted ? line.indexOf('"', 1) + 1 : firstSpace(line);
    if (end <= 0) {
      throw new KeyProblem("after the name there is no key");
    }
    String name = quoted ? line.substring(1, end - 1) : line.substring(0, end);
    String rest = line.substring(end).strip();
    List<String> namespaces = List.of();
    Optional<Instant> after = Optional.empty();
    Optional<Instant> before = Optional.empty();
    if (!rest.matches("(ssh|ecdsa|sk)-.*")) {
      Matcher option = OPTION.matcher(rest);
      int to = 0;
      while (option.find()) {
        String value = option.group(2) == null ? "" : option.group(2);
        switch (option.group(1)) {
          case "namespaces" -> namespaces = List.of(value.split(","));
          case "valid-after" -> after = Optional.of(time(value));
          case "valid-before" -> before = Optional.of(time(value));
          default -> throw new KeyProblem("'" + option.group(1) + "' is not understood here");
        }
        to = option.end();
      }
      rest = rest.substring(to).strip();
    }
    String[] words = rest.split("\\s+");
    if (words.length < 2) {
      throw new KeyProblem("after the name there is no key");
    }
    try {
      SshKey key = SshKey.of(Base64.getDecoder().decode(words[1]));
      return new Signer(name, key, namespaces, after, before);
    } catch (IllegalArgumentException e) {
      throw new KeyProblem("its key is damaged", e);
    }
  }

  private static int firstSpace(String line) {
    int at = 0;
    while (at < line.length() && !Character.isWhitespace(line.charAt(at))) {
      at++;
    }
    return at == line.length() ? -1 : at;
  }

  private static Instant time(String text) throws KeyProblem {
    Matcher time = TIME.matcher(text);
    if (!time.matches()) {
      throw new KeyProblem("'" + text + "' is no time such as 20261231 or 202612312359Z");
    }
    String clock = time.group(2) == null ? "" : time.group(2);
    String all = time.group(1) + (clock + "000000").substring(0, 6);
    try {
      LocalDateTime local = LocalDateTime.parse(all, DateTimeFormatter.ofPattern("yyyyMMddHHmmss"));
      ZoneId zone = time.group(3).isEmpty() ? ZoneId.systemDefault() : ZoneOffset.UTC;
      return local.atZone(zone).toInstant();
    } catch (DateTimeParseException e) {
      throw new KeyProblem("there is no such time as '" + text + "'", e);
    }
  }

  /**
   * Whose signature it is.
   *
   * @param statement what was signed
   * @param at when, as the signer says
   * @param now a key must count then, too: whoever stole one could date it back
   * @return the name before the key
   * @throws KeyProblem if it does not count
   */
  String signer(byte[] statement, String armored, Instant at, Instant now) throws KeyProblem {
    SshSignature signature = SshSignature.of(armored);
    String objection = "its key " + signature.key().fingerprint() + " is not in " + file;
    boolean found = false;
    for (Signer signer : signers) {
      if (!signer.key().equals(signature.key())) {
        continue;
      }
      if (!found && !signature.isOf(statement)) {
        throw new KeyProblem("it is over something else, or not by the key that it names");
      }
      found = true;
      Optional<String> why = signer.objection(at).or(() -> signer.objection(now));
      if (why.isEmpty()) {
        return signer.name();
      }
      objection = why.get();
    }
    throw new KeyProblem(objection);
  }

  /** Where they stand. */
  public Path file() {
    return file;
  }
}
