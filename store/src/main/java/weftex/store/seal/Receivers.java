package weftex.store.seal;

import com.exceptionfactory.jagged.EncryptingChannelFactory;
import com.exceptionfactory.jagged.RecipientStanzaWriter;
import com.exceptionfactory.jagged.framework.armor.ArmoredEncryptingChannelFactory;
import com.exceptionfactory.jagged.framework.stream.StandardEncryptingChannelFactory;
import java.io.BufferedOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.store.FailureWords;
import weftex.store.FileProblem;
import weftex.store.Refusal;
import weftex.store.sshkey.KeyProblem;

/** Those for whom something is sealed: by SSH or age public keys, each once. */
public final class Receivers {
  /** Nobody: what is written is in the clear. */
  public static final Receivers NONE = new Receivers(List.of());

  private final List<Receiver> all;

  private Receivers(List<Receiver> all) {
    this.all = List.copyOf(all);
  }

  /**
   * Reads what a user says: each is an age key, a line with an SSH key, or a file with one or more
   * of them, a line each.
   *
   * @param folder from where files are named
   * @param ending a sentence on what is so if one is not understood
   */
  public static Receivers said(List<String> said, Path folder, String ending) throws Refusal {
    List<Receiver> all = new ArrayList<>();
    for (String each : said) {
      boolean isKey = each.startsWith("age1") || each.matches("(ssh|ecdsa|sk)-\\S+\\s+\\S.*");
      if (isKey) {
        all.add(receiver(each, "'" + each + "'", ending));
      } else {
        all.addAll(inFile(folder.resolve(each), ending));
      }
    }
    return new Receivers(once(all));
  }

  private static List<Receiver> inFile(Path file, String ending) throws Refusal {
    List<String> lines;
    try {
      lines = Files.readAllLines(file);
    } catch (IOException e) {
      throw refusal(
          "The key " + file + " can't be read: " + FailureWords.of(e) + ". " + ending,
          "Name a public key of SSH or age: the key itself, or a file with it.",
          e);
    }
    if (lines.stream()
        .anyMatch(line -> line.contains("PRIVATE KEY") || line.startsWith("AGE-SECRET-KEY-"))) {
      throw refusal(
          file + " is a private key; a seal takes the public one. " + ending,
          "Name " + file + ".pub, or what 'age-keygen -y " + file + "' prints.",
          null);
    }
    List<Receiver> all = new ArrayList<>();
    for (int i = 0; i < lines.size(); i++) {
      String line = lines.get(i).strip();
      if (!line.isEmpty() && !line.startsWith("#")) {
        all.add(receiver(line, "Line " + (i + 1) + " of " + file, ending));
      }
    }
    if (all.isEmpty()) {
      throw refusal(
          "There is no key in " + file + ". " + ending,
          "Name a public key of SSH or age: the key itself, or a file with it.",
          null);
    }
    return all;
  }

  private static Receiver receiver(String line, String where, String ending) throws Refusal {
    try {
      return Receiver.of(line);
    } catch (KeyProblem e) {
      throw refusal(
          where + " can't be sealed for: " + e.getMessage() + ". " + ending,
          "Name a public key of SSH (ssh-ed25519 or ssh-rsa) or age.",
          e);
    }
  }

  private static Refusal refusal(String what, String next, Exception cause) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what, next, cause);
  }

  private static List<Receiver> once(List<Receiver> all) {
    Map<String, Receiver> byKey = new LinkedHashMap<>();
    all.forEach(each -> byKey.putIfAbsent(each.key(), each));
    return List.copyOf(byKey.values());
  }

  /**
   * Takes keys as a header has them.
   *
   * @throws FileProblem if one is not understood
   */
  public static Receivers of(List<String> lines) throws FileProblem {
    List<Receiver> all = new ArrayList<>();
    for (String line : lines) {
      try {
        all.add(Receiver.of(line));
      } catch (KeyProblem e) {
        throw new FileProblem(
            "Its header names a receiver that is none: " + e.getMessage(),
            "Fetch it again from where it came from, or draft again.",
            e);
      }
    }
    return new Receivers(all);
  }

  List<Receiver> all() {
    return all;
  }

  public boolean isNobody() {
    return all.isEmpty();
  }

  /** Their public keys, as a header has them. */
  public List<String> lines() {
    return all.stream().map(Receiver::line).toList();
  }

  /** What people call them. */
  public List<String> names() {
    return all.stream().map(Receiver::name).toList();
  }

  /** Whether they are the same, in whichever order. */
  public boolean areThose(Receivers others) {
    return keys(this).equals(keys(others));
  }

  private static Set<String> keys(Receivers of) {
    return of.all.stream().map(Receiver::key).collect(Collectors.toSet());
  }

  /**
   * Seals what is written, as one armored age file.
   *
   * @param out stays open when the result is closed
   */
  public OutputStream sealing(OutputStream out) throws IOException {
    OutputStream open =
        new FilterOutputStream(out) {
          @Override
          public void write(byte[] bytes, int from, int length) throws IOException {
            out.write(bytes, from, length);
          }

          @Override
          public void close() throws IOException {
            flush();
          }
        };
    return sealing(open, new ArmoredEncryptingChannelFactory());
  }

  /**
   * Seals what is written, as one binary age file.
   *
   * @param out is closed with the result
   */
  OutputStream sealingBinary(OutputStream out) throws IOException {
    return new BufferedOutputStream(sealing(out, new StandardEncryptingChannelFactory()), 1 << 16);
  }

  private OutputStream sealing(OutputStream out, EncryptingChannelFactory factory)
      throws IOException {
    List<RecipientStanzaWriter> writers = all.stream().map(Receiver::writer).toList();
    try {
      return Channels.newOutputStream(
          factory.newEncryptingChannel(Channels.newChannel(out), writers));
    } catch (GeneralSecurityException e) {
      throw new FileProblem("It can't be sealed: " + e.getMessage(), "Seal for other keys.", e);
    }
  }
}
