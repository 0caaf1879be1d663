package weftex.store.signature;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import weftex.core.signoff.Statement;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.state.Files0600;

/**
 * Signs by the machine's own {@code ssh-keygen}, so that agents, tokens and passphrases work as
 * they do everywhere else; no private key is read here.
 */
public final class KeySigner {
  /** A passphrase is asked for on the terminal, or a token wants to be touched. */
  private static final int PATIENCE_SECONDS = 120;

  private final Path key;
  private final Set<String> withheld;

  /**
   * @param key a private key, or the public one whose private half an agent holds
   * @param withheld variables of the environment that the other program does not get
   */
  public KeySigner(Path key, Set<String> withheld) {
    this.key = key;
    this.withheld = Set.copyOf(withheld);
  }

  /**
   * A signature, as text.
   *
   * @param ending a sentence on what is so if nothing is signed
   * @throws Refusal if there is none, in a sentence of its own for each reason
   */
  public String sign(Statement statement, String ending) throws Refusal {
    try {
      return signed(statement);
    } catch (Unsigned e) {
      throw new Refusal(Refusal.Kind.WRONG_INPUT, e.getMessage() + ". " + ending, e.next, e);
    }
  }

  private String signed(Statement statement) throws Unsigned {
    if (!Files.isRegularFile(key)) {
      throw new Unsigned(
          "There is no key " + key, "Name the key of yours that the others know.", null);
    }
    try {
      Path said = Files.createTempFile("weftex-", null);
      try {
        return sign(statement.bytes(), said);
      } finally {
        Files0600.delete(said);
      }
    } catch (IOException e) {
      throw new Unsigned(
          "'ssh-keygen' can't be run: " + FailureWords.of(e), "Install the OpenSSH client.", e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Unsigned("The signing was interrupted", "Do it again.", e);
    }
  }

  private String sign(byte[] message, Path said)
      throws IOException, InterruptedException, Unsigned {
    ProcessBuilder builder =
        new ProcessBuilder(
            List.of("ssh-keygen", "-Y", "sign", "-n", SshSignature.NAMESPACE, "-f", "" + key));
    builder.environment().put("LC_ALL", "C");
    builder.environment().keySet().removeAll(withheld);
    Process process = builder.redirectError(said.toFile()).start();
    try (OutputStream out = process.getOutputStream()) {
      out.write(message);
    } catch (IOException e) {
      // It ended before it read anything, and says why.
      process.waitFor(1, TimeUnit.SECONDS);
    }
    boolean ended = process.waitFor(PATIENCE_SECONDS, TimeUnit.SECONDS);
    if (!ended) {
      process.destroy();
      throw new Unsigned(
          "'ssh-keygen' did not end within " + PATIENCE_SECONDS + " seconds",
          "Type the passphrase, or touch the token, when it asks.",
          null);
    }
    byte[] signature = process.getInputStream().readAllBytes();
    if (process.exitValue() != 0 || signature.length == 0) {
      throw because(Files.readString(said));
    }
    return new String(signature, StandardCharsets.US_ASCII).strip();
  }

  private Unsigned because(String said) {
    if (said.contains("incorrect passphrase")) {
      return new Unsigned("The passphrase of " + key + " is wrong", "Do it again.", null);
    }
    if (said.contains("agent") || said.contains("No private key")) {
      return new Unsigned(
          "The private half of " + key + " is neither beside it nor with an agent",
          "Add it with 'ssh-add', or name the private key.",
          null);
    }
    if (said.contains("invalid format")
        || said.contains("error in libcrypto")
        || said.contains("load public key")) {
      return new Unsigned(key + " is no key that can sign", "Name a key of yours.", null);
    }
    List<String> lines = said.lines().filter(line -> !line.isBlank()).toList();
    return new Unsigned(
        "'ssh-keygen' did not sign with "
            + key
            + (lines.isEmpty() ? "" : ": " + lines.get(lines.size() - 1).strip()),
        "See to that, or sign with another key.",
        null);
  }

  /** Why nothing was signed. */
  private static final class Unsigned extends Exception {
    private static final long serialVersionUID = 1;

    private final String next;

    Unsigned(String what, String next, Exception cause) {
      super(what, cause);
      this.next = next;
    }
  }
}
