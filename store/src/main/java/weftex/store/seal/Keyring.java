package weftex.store.seal;

import com.exceptionfactory.jagged.FileKey;
import com.exceptionfactory.jagged.RecipientStanza;
import com.exceptionfactory.jagged.RecipientStanzaReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import weftex.store.FailureWords;
import weftex.store.FileProblem;
import weftex.store.Refusal;
import weftex.store.state.Files0600;

/** The user's private keys, of SSH and age. Each is unlocked once, and only if it is needed. */
public final class Keyring {
  /** No keys: nothing that is sealed can be opened. */
  public static final Keyring NONE = new Keyring(List.of(), List.of(), key -> Optional.empty());

  private final List<Path> named;
  private final List<Path> usual;
  private final Passphrases passphrases;
  private final Map<OwnKey, RecipientStanzaReader> unlocked = new HashMap<>();
  private List<OwnKey> keys;

  /**
   * @param named the files that the user names; if there are none, the usual ones are looked at
   * @param usual where keys usually are; those that are not there don't matter
   */
  public Keyring(List<Path> named, List<Path> usual, Passphrases passphrases) {
    this.named = List.copyOf(named);
    this.usual = List.copyOf(usual);
    this.passphrases = passphrases;
  }

  /** One key. */
  Keyring(OwnKey key) {
    this(List.of(), List.of(), unused -> Optional.empty());
    keys = List.of(key);
  }

  /** Asks for passphrases. */
  public interface Passphrases {
    /** The passphrase of a key; empty if nobody is there to be asked. */
    Optional<String> of(Path key);
  }

  /**
   * Whether something that is sealed for these can be opened here; whether the passphrase is known
   * shows later.
   */
  public synchronized boolean opens(Receivers receivers) throws FileProblem {
    return !matching(receivers).isEmpty();
  }

  /** The public key of the first of them, with its owner's name if that lies beside it. */
  public synchronized Receivers firstReceiver() throws FileProblem {
    List<OwnKey> all = all();
    if (all.isEmpty()) {
      return Receivers.NONE;
    }
    Receivers own = Receivers.of(List.of(all.get(0).receiver()));
    for (Path file : named.isEmpty() ? usual : named) {
      try {
        Receivers said = Receivers.said(List.of(file.getFileName() + ".pub"), file.getParent(), "");
        if (said.areThose(own)) {
          return said;
        }
      } catch (Refusal e) {
        // The name is for people only.
        continue;
      }
    }
    return own;
  }

  /**
   * What opens stanzas for these receivers.
   *
   * @param what is sealed, as the beginning of a sentence
   */
  synchronized RecipientStanzaReader reader(Receivers receivers, String what) throws FileProblem {
    List<OwnKey> own = matching(receivers);
    if (own.isEmpty()) {
      throw new FileProblem(
          what
              + " is sealed for "
              + String.join(", ", receivers.names())
              + ", and "
              + (named.isEmpty()
                  ? "none of your usual keys opens it"
                  : shownNamed() + " does not open it"),
          named.isEmpty()
              ? "Name your key with --open-with, or ask whoever sealed it to seal it for you, too."
              : "Name another key of yours, or ask whoever sealed it to seal it for you, too.");
    }
    List<RecipientStanzaReader> readers = new ArrayList<>();
    for (OwnKey key : own) {
      RecipientStanzaReader reader = unlocked.get(key);
      if (reader == null) {
        reader = key.reader(passphrases);
        unlocked.put(key, reader);
      }
      readers.add(reader);
    }
    return stanzas -> first(readers, stanzas);
  }

  private static FileKey first(
      List<RecipientStanzaReader> readers, Iterable<RecipientStanza> stanzas)
      throws GeneralSecurityException {
    GeneralSecurityException why = null;
    for (RecipientStanzaReader reader : readers) {
      try {
        return reader.getFileKey(stanzas);
      } catch (GeneralSecurityException e) {
        why = e;
      }
    }
    throw why;
  }

  private List<OwnKey> matching(Receivers receivers) throws FileProblem {
    return all().stream().filter(key -> receivers.all().stream().anyMatch(key::isOf)).toList();
  }

  private List<OwnKey> all() throws FileProblem {
    if (keys == null) {
      keys = read();
    }
    return keys;
  }

  private String shownNamed() {
    return named.stream().map(Path::toString).collect(Collectors.joining(", "));
  }

  private List<OwnKey> read() throws FileProblem {
    List<OwnKey> all = new ArrayList<>();
    for (Path file : named) {
      all.addAll(read(file));
    }
    if (named.isEmpty()) {
      for (Path file : usual) {
        try {
          all.addAll(Files.isRegularFile(file) ? read(file) : List.of());
        } catch (FileProblem e) {
          // Nobody named it, so it need not be of use.
          continue;
        }
      }
    }
    return all;
  }

  private static List<OwnKey> read(Path said) throws FileProblem {
    Path file = said;
    try {
      String text = text(file);
      if (text.matches("(?s)\\s*(ssh|ecdsa|sk)-.*")) {
        file = besidePublic(said);
        text = text(file);
      }
      if (Files0600.isReadByOthers(file)) {
        throw new FileProblem(
            "Others on this machine can read the private key " + file,
            "Take it away from them with 'chmod 600 " + file + "'.");
      }
      if (text.contains("BEGIN AGE ENCRYPTED FILE") || text.startsWith("age-encryption.org/")) {
        throw new FileProblem(
            "The key " + file + " is itself locked by age, which is not opened here",
            "Open it with 'age -d', and name what comes out.");
      }
      List<OwnKey> keys = new ArrayList<>();
      for (String line : text.lines().map(String::strip).toList()) {
        if (OwnKey.isAge(line)) {
          keys.add(OwnKey.ofAge(file, line));
        }
      }
      return keys.isEmpty()
          ? List.of(OwnKey.ofSsh(file, text.getBytes(StandardCharsets.ISO_8859_1)))
          : keys;
    } catch (FileProblem e) {
      throw e;
    } catch (IOException e) {
      throw new FileProblem(
          "The key " + file + " can't be read: " + FailureWords.of(e),
          "Name a private key of yours with --open-with.",
          e);
    }
  }

  private static String text(Path file) throws IOException {
    return new String(Files.readAllBytes(file), StandardCharsets.ISO_8859_1);
  }

  private static Path besidePublic(Path file) throws FileProblem {
    Path secret = file.resolveSibling(file.getFileName().toString().replaceAll("\\.pub$", ""));
    if (secret.equals(file) || !Files.isRegularFile(secret)) {
      throw new FileProblem(
          "The private half of "
              + file
              + " is not beside it, and an agent that holds it can sign with it, not open",
          "Name the private key itself with --open-with.");
    }
    return secret;
  }
}
