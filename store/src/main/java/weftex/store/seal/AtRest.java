package weftex.store.seal;

import com.exceptionfactory.jagged.RecipientStanzaReader;
import com.exceptionfactory.jagged.x25519.X25519KeyPairGenerator;
import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.GeneralSecurityException;
import java.security.KeyPair;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import weftex.store.FileProblem;
import weftex.store.state.Files0600;
import weftex.store.state.StateFolder;

/**
 * How the files of a state folder that hold content are kept: in the clear, or encrypted for a key
 * of the folder's own, which lies beside them, sealed for people. So one passphrase opens all of
 * it, and another receiver needs that one key only. Files of both kinds are read, whichever of them
 * are written now.
 */
public final class AtRest {
  /** In the clear, with no key for anything else. */
  public static final AtRest CLEAR = new AtRest(Path.of(""), Receivers.NONE, Keyring.NONE);

  /** The file of the folder's key. */
  private static final String KEY = "state-key.sealed";

  /** What it is called in its first line. */
  private static final String STATE_KEY = "state-key";

  private static final byte[] AGE = "age-encryption.org/v1\n".getBytes(StandardCharsets.US_ASCII);

  private final Path key;
  private final Receivers people;
  private final Keyring keys;
  private final OpenedContent opened = new OpenedContent();
  private final AgeChannel.Known known = new AgeChannel.Known();
  private OwnKey own;

  /**
   * @param folder the state folder
   * @param people who can open what is written; nobody if that is in the clear
   * @param keys the user's
   */
  public AtRest(Path folder, Receivers people, Keyring keys) {
    this.key = folder.resolve(KEY);
    this.people = people;
    this.keys = keys;
  }

  /** Whether what is written is encrypted. */
  public boolean isSealing() {
    return !people.isNobody();
  }

  /** Whether a folder has a key, so that some of it is encrypted. */
  public static boolean isIn(Path folder) {
    return Files.exists(folder.resolve(KEY));
  }

  /** Whether a file is encrypted. */
  public static boolean isSealed(Path file) throws IOException {
    return isAge(file) || SealedFile.isOne(file);
  }

  private static boolean isOfState(Path file) throws IOException {
    try {
      return isAge(file) || SealedFile.isOfState(file);
    } catch (NoSuchFileException e) {
      // It was a temporary file of another process.
      return false;
    }
  }

  private static boolean isAge(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return Arrays.equals(in.readNBytes(AGE.length), AGE);
    }
  }

  /** Creates or replaces a file that is written once; only its owner can read it. */
  public OutputStream create(Path file) throws IOException {
    return sealing(Files0600.create(file));
  }

  /** Encrypts what is written once, if that is so here. */
  public OutputStream sealing(OutputStream out) throws IOException {
    return isSealing() ? receiver().sealingBinary(out) : out;
  }

  /**
   * Encrypts what is written with pauses, if that is so here: what was flushed can be read, even if
   * nothing follows.
   *
   * @param what the file is
   */
  public OutputStream sealingParts(OutputStream out, String what) throws IOException {
    return isSealing() ? SealedFile.writingParts(out, what, receiver()) : out;
  }

  /** Reads a file from its beginning. */
  public InputStream open(Path file) throws IOException {
    return new BufferedInputStream(
        isAge(file)
            ? Channels.newInputStream(AgeChannel.open(file, reader(), known))
            : Files.newInputStream(file),
        1 << 16);
  }

  /** Reads a file that was written once, from anywhere. */
  public SeekableByteChannel channel(Path file) throws IOException {
    return isAge(file) ? AgeChannel.open(file, reader(), known) : Files.newByteChannel(file);
  }

  /**
   * A file that was written with pauses.
   *
   * @param what it is
   */
  public SealedFile parts(Path file, String what) throws IOException {
    return SealedFile.open(file, what, new Keyring(own()), opened);
  }

  private synchronized Receivers receiver() throws IOException {
    if (own == null && Files.notExists(key) && !isAnythingSealed()) {
      make();
    }
    return Receivers.of(List.of(own().receiver()));
  }

  /** A new key would open nothing of what an earlier one sealed. */
  private boolean isAnythingSealed() throws IOException {
    // Other sites under one roof have keys of their own.
    Path sites = key.resolveSibling(StateFolder.SITES);
    for (Path file : Files0600.in(key.getParent())) {
      // Another process may be making the key at this moment.
      boolean isKey = file.getFileName().toString().startsWith(KEY);
      if (!file.startsWith(sites) && !isKey && isOfState(file)) {
        return true;
      }
    }
    return false;
  }

  private RecipientStanzaReader reader() throws IOException {
    return own().reader(unused -> Optional.empty());
  }

  /** The folder's key. */
  private synchronized OwnKey own() throws IOException {
    if (own == null) {
      if (this == CLEAR) {
        throw new FileProblem(
            "It is encrypted, and no state folder has its key",
            "Decrypt it with 'age -d', and name what comes out.");
      }
      if (Files.notExists(key)) {
        throw new FileProblem(
            "The key of the state folder, " + key + ", is not there",
            "Bring it back from a backup: without it nobody can open what is kept there. If it is lost,"
                + " remove the folder and record a new base with 'weftex mark'.");
      }
      own = read();
    }
    return own;
  }

  private OwnKey read() throws IOException {
    SealedFile sealed = key(key, keys);
    byte[] secret;
    try (InputStream in = sealed.content()) {
      secret = in.readAllBytes();
    }
    if (isSealing() && !sealed.receivers().areThose(people)) {
      checkOpens();
      Path partial = partial(secret);
      Files.move(partial, key, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
      Files0600.syncFolder(key.getParent());
    }
    return OwnKey.ofAge(key, new String(secret, StandardCharsets.US_ASCII).strip());
  }

  private static SealedFile key(Path file, Keyring keys) throws IOException {
    return SealedFile.open(file, STATE_KEY, keys, new OpenedContent());
  }

  /** For whom the key of a state folder is sealed; empty if the folder has none. */
  public static Optional<Receivers> people(Path folder, Keyring keys) throws IOException {
    Path key = folder.resolve(KEY);
    return Files.exists(key) ? Optional.of(key(key, keys).receivers()) : Optional.empty();
  }

  private byte[] sealed(byte[] secret) throws IOException {
    ByteArrayOutputStream sealed = new ByteArrayOutputStream();
    try (OutputStream out = SealedFile.writing(sealed, STATE_KEY, people)) {
      out.write(secret);
    }
    return sealed.toByteArray();
  }

  /** The key, sealed, in a file beside its own that survives a loss of power. */
  private Path partial(byte[] secret) throws IOException {
    Path partial = Files.createTempFile(key.getParent(), KEY, ".partial");
    try (OutputStream out = Files0600.create(partial)) {
      out.write(sealed(secret));
    } catch (IOException | RuntimeException e) {
      Files.deleteIfExists(partial);
      throw e;
    }
    Files0600.sync(partial);
    return partial;
  }

  /** Nobody locks themselves out. */
  private void checkOpens() throws FileProblem {
    if (!keys.opens(people)) {
      throw new FileProblem(
          "The state folder is to be sealed for "
              + String.join(", ", people.names())
              + ", and no key here opens that",
          "Name your own public key under 'sealed' in weftex.yaml, too, and the private one with"
              + " --open-with if it is none of your SSH keys.");
    }
  }

  private void make() throws IOException {
    checkOpens();
    Files0600.createFolder(key.getParent());
    Path partial = partial(fresh());
    try {
      // Of two processes one makes it, and the other takes that one.
      Files.createLink(key, partial);
      Files0600.syncFolder(key.getParent());
    } catch (FileAlreadyExistsException e) {
      return;
    } finally {
      Files.deleteIfExists(partial);
    }
  }

  private static byte[] fresh() {
    try {
      KeyPair pair = new X25519KeyPairGenerator().generateKeyPair();
      return (new String(pair.getPrivate().getEncoded(), StandardCharsets.US_ASCII) + "\n")
          .getBytes(StandardCharsets.US_ASCII);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java has X25519", e);
    }
  }
}
