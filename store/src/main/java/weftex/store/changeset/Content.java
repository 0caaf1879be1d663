package weftex.store.changeset;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import weftex.core.change.ChangeSetHeader;
import weftex.store.seal.Keyring;
import weftex.store.seal.Receivers;
import weftex.store.seal.SealProblem;
import weftex.store.seal.SealedFile;

/** The lines of a change set, whether they stand in its file as they are or sealed. */
interface Content {

  /** That of a file; of a file that is sealed it is opened by keys of the user's. */
  static Content of(Path file, Keyring keys) throws IOException {
    return SealedFile.isOne(file) ? new Sealed(file, SealedFile.open(file, keys)) : new Clear(file);
  }

  /** All lines. */
  InputStream open() throws IOException;

  /** Some bytes of what was read before. */
  byte[] at(long offset, int length) throws IOException;

  /** Lines as they are appended to the file. */
  byte[] appended(byte[] lines) throws IOException;

  /** The end of the file, if it was cut off while a line was appended. */
  Optional<LastLine.Torn> torn() throws IOException;

  /**
   * Whoever can write to a file can add a receiver of their own to its first line.
   *
   * @throws SealProblem if the header names others than that line
   */
  void check(ChangeSetHeader header) throws SealProblem;

  /** In the clear. */
  record Clear(Path file) implements Content {
    @Override
    public InputStream open() throws IOException {
      return new BufferedInputStream(Files.newInputStream(file), 1 << 16);
    }

    @Override
    public byte[] at(long offset, int length) throws IOException {
      ByteBuffer bytes = ByteBuffer.allocate(length);
      try (FileChannel channel = FileChannel.open(file)) {
        while (bytes.hasRemaining()) {
          if (channel.read(bytes, offset + bytes.position()) < 0) {
            throw new IOException("the change set " + file + " became shorter while it was open");
          }
        }
      }
      return bytes.array();
    }

    @Override
    public byte[] appended(byte[] lines) {
      return lines;
    }

    @Override
    public Optional<LastLine.Torn> torn() throws IOException {
      if (LastLine.isWhole(file)) {
        return Optional.empty();
      }
      try (InputStream in = open()) {
        return LastLine.torn(in);
      }
    }

    @Override
    public void check(ChangeSetHeader header) {
      // Nobody is named for whom it would be sealed.
    }
  }

  /** Sealed. */
  record Sealed(Path file, SealedFile sealed) implements Content {
    @Override
    public InputStream open() throws IOException {
      return sealed.content();
    }

    @Override
    public byte[] at(long offset, int length) throws IOException {
      return sealed.at(offset, length);
    }

    @Override
    public byte[] appended(byte[] lines) throws IOException {
      return sealed.part(lines);
    }

    /** A part that is not whole can't be opened, so that nothing of it is kept. */
    @Override
    public Optional<LastLine.Torn> torn() throws IOException {
      if (sealed.endsWhole()) {
        return Optional.empty();
      }
      try (InputStream in = sealed.wholeContent()) {
        if (!LastLine.isDrafted(in)) {
          return Optional.empty();
        }
      }
      return Optional.of(new LastLine.Torn(sealed.wholeLength(), false));
    }

    @Override
    public void check(ChangeSetHeader header) throws SealProblem {
      if (!Receivers.of(header.receivers()).areThose(sealed.receivers())) {
        throw new SealProblem(
            "The first line of " + file + " names other receivers than it was sealed for",
            "Somebody wrote into it: fetch it again from where it came from, or draft again.");
      }
    }
  }
}
