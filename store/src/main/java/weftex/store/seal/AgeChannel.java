package weftex.store.seal;

import com.exceptionfactory.jagged.RecipientStanzaReader;
import com.exceptionfactory.jagged.framework.crypto.CipherKey;
import com.exceptionfactory.jagged.framework.format.StandardPayloadKeyReader;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.FileChannel;
import java.nio.channels.NonWritableChannelException;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.GeneralSecurityException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.crypto.Cipher;
import javax.crypto.spec.IvParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import weftex.store.FileProblem;

/**
 * The content of an age file, read from anywhere. The format's payload is made for that: chunks of
 * 64 KiB, each encrypted by itself (ChaCha20-Poly1305) under its number, the last one marked as the
 * last, so that a chunk that was moved, and a file that was cut short, are seen.
 *
 * @see <a href="https://age-encryption.org/v1">the format</a>
 */
final class AgeChannel implements SeekableByteChannel {
  private static final int CHUNK = 64 << 10;
  private static final int TAG = 16;
  private static final int NONCE_BYTES = 12;

  /** The stanza of one receiver, the nonce, and a little of what follows. */
  private static final int USUAL_HEADER = 512;

  /** Far more than the stanzas of a hundred receivers. */
  private static final int LONGEST_HEADER = 1 << 17;

  private final Path file;
  private final FileChannel channel;
  private final Cipher cipher;
  private final SecretKeySpec key;

  /** Where the chunks begin. */
  private final long front;

  private final long chunks;
  private final long size;
  private final byte[] sealed = new byte[CHUNK + TAG];
  private byte[] chunk = {};
  private long held = -1;
  private long position;

  /** Files that were opened before, by their headers, so that it takes no key agreement again. */
  static final class Known {
    private static final int MOST = 256;

    private final Map<ByteBuffer, Opened> files =
        new LinkedHashMap<>(MOST, 0.75f, true) {
          private static final long serialVersionUID = 1;

          @Override
          protected boolean removeEldestEntry(Map.Entry<ByteBuffer, Opened> eldest) {
            return size() > MOST;
          }
        };

    private synchronized Opened get(ByteBuffer header) {
      return files.get(header);
    }

    private synchronized void put(ByteBuffer header, Opened opened) {
      files.put(header, opened);
    }
  }

  /**
   * What is known of a file once it was opened.
   *
   * @param front where its chunks begin
   * @param length of the file, whose last chunk is the last
   */
  private record Opened(SecretKeySpec key, int front, long length) {}

  private AgeChannel(Path file, FileChannel channel, RecipientStanzaReader reader, Known known)
      throws IOException, GeneralSecurityException {
    this.file = file;
    this.channel = channel;
    this.cipher = Cipher.getInstance("ChaCha20-Poly1305");
    ByteBuffer header = header(USUAL_HEADER);
    Opened opened = known.get(header);
    boolean isKnown = opened != null && opened.length() == channel.size();
    if (!isKnown) {
      ByteBuffer whole = header(LONGEST_HEADER);
      CipherKey payload = new StandardPayloadKeyReader().getPayloadKey(whole, List.of(reader));
      opened =
          new Opened(
              new SecretKeySpec(payload.getEncoded(), "ChaCha20"),
              whole.position(),
              channel.size());
    }
    this.key = opened.key();
    this.front = opened.front();
    long bytes = opened.length() - front;
    this.chunks = (bytes + CHUNK + TAG - 1) / (CHUNK + TAG);
    this.size = bytes - chunks * TAG;
    if (!isKnown) {
      // Only the last chunk may be short, and says that it is the last: a file that was cut is not.
      load(chunks - 1);
      if (front <= header.limit()) {
        known.put(header, opened);
      }
    }
  }

  private ByteBuffer header(int most) throws IOException {
    ByteBuffer header = ByteBuffer.allocate((int) Math.min(most, channel.size()));
    while (header.hasRemaining() && channel.read(header, header.position()) >= 0) {
      continue;
    }
    return header.flip();
  }

  /**
   * Opens a file.
   *
   * @throws FileProblem if it is damaged or was cut short
   */
  static AgeChannel open(Path file, RecipientStanzaReader reader, Known known) throws IOException {
    FileChannel channel = FileChannel.open(file, StandardOpenOption.READ);
    try {
      return new AgeChannel(file, channel, reader, known);
    } catch (GeneralSecurityException | IOException | RuntimeException e) {
      channel.close();
      throw SealedFile.damaged(file, SealedFile.FROM_BACKUP, e);
    }
  }

  private void load(long number) throws IOException, GeneralSecurityException {
    if (number < 0) {
      throw new IOException("there is no chunk, and even an empty file has one");
    }
    if (number == held) {
      return;
    }
    long from = front + number * (CHUNK + TAG);
    ByteBuffer into = ByteBuffer.wrap(sealed);
    while (into.hasRemaining() && channel.read(into, from + into.position()) >= 0) {
      continue;
    }
    byte[] nonce = new byte[NONCE_BYTES];
    for (int i = 0; i < Long.BYTES; i++) {
      nonce[NONCE_BYTES - 2 - i] = (byte) (number >>> (8 * i));
    }
    nonce[NONCE_BYTES - 1] = (byte) (number == chunks - 1 ? 1 : 0);
    cipher.init(Cipher.DECRYPT_MODE, key, new IvParameterSpec(nonce));
    held = -1;
    chunk = cipher.doFinal(sealed, 0, into.position());
    held = number;
  }

  @Override
  public synchronized int read(ByteBuffer into) throws IOException {
    if (!isOpen()) {
      throw new ClosedChannelException();
    }
    if (position >= size) {
      return -1;
    }
    try {
      load(position / CHUNK);
    } catch (GeneralSecurityException e) {
      throw SealedFile.damaged(file, SealedFile.FROM_BACKUP, e);
    }
    int from = (int) (position % CHUNK);
    int count = Math.min(into.remaining(), chunk.length - from);
    into.put(chunk, from, count);
    position += count;
    return count;
  }

  @Override
  public synchronized long position() {
    return position;
  }

  @Override
  public synchronized SeekableByteChannel position(long to) {
    position = to;
    return this;
  }

  @Override
  public long size() {
    return size;
  }

  @Override
  public int write(ByteBuffer from) {
    throw new NonWritableChannelException();
  }

  @Override
  public SeekableByteChannel truncate(long to) {
    throw new NonWritableChannelException();
  }

  @Override
  public boolean isOpen() {
    return channel.isOpen();
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
