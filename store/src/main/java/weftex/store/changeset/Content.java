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
import weftex.store.FileProblem;
import weftex.store.pack.Frames;
import weftex.store.seal.Keyring;
import weftex.store.seal.Receivers;
import weftex.store.seal.SealedFile;

/** The lines of a change set, whether they stand in its file as they are, compressed or sealed. */
interface Content {
  /** About how many times as long a text is as what it is compressed to. */
  int PACKED = 8;

  /** What to do about a damaged one: it was compressed in the state folder. */
  String FROM_BACKUP = "Bring it back from a backup of the state folder, or draft again.";

  /** That of a file; of a file that is sealed it is opened by keys of the user's. */
  static Content of(Path file, Keyring keys) throws IOException {
    if (SealedFile.isOne(file)) {
      return new Sealed(file, SealedFile.open(file, keys));
    }
    Clear clear = new Clear(file);
    try (InputStream in = clear.open()) {
      return Frames.isOne(in)
          ? new Packed(file, new Frames(file, FROM_BACKUP, clear, new Frames.Held()))
          : clear;
    }
  }

  /** All lines. */
  InputStream open() throws IOException;

  /** Some bytes of what was read before. */
  byte[] at(long offset, int length) throws IOException;

  /** Lines as they are appended to the file. */
  byte[] appended(byte[] lines) throws IOException;

  /** About how many bytes all lines are. */
  default long weight() throws IOException {
    return Files.size(file());
  }

  /** Where they stand. */
  Path file();

  /** The end of the file, if it was cut off while a line was appended. */
  Optional<LastLine.Torn> torn() throws IOException;

  /**
   * Whoever can write to a file can add a receiver of their own to its first line.
   *
   * @throws FileProblem if the header names others than that line
   */
  void check(ChangeSetHeader header) throws FileProblem;

  /** In the clear. */
  record Clear(Path file) implements Content, Frames.Source {
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

  /** Compressed, as it is with old ones. */
  record Packed(Path file, Frames frames) implements Content {
    @Override
    public InputStream open() throws IOException {
      return frames.content();
    }

    @Override
    public byte[] at(long offset, int length) throws IOException {
      return frames.at(offset, length);
    }

    @Override
    public byte[] appended(byte[] lines) throws IOException {
      return Frames.appended(lines);
    }

    @Override
    public long weight() throws IOException {
      return Files.size(file) * PACKED;
    }

    /** Lines are appended as whole frames. */
    @Override
    public Optional<LastLine.Torn> torn() throws IOException {
      long whole = frames.wholeLength();
      if (whole == Files.size(file)) {
        return Optional.empty();
      }
      try (InputStream in = open()) {
        return LastLine.isDrafted(in)
            ? Optional.of(new LastLine.Torn(whole, false))
            : Optional.empty();
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
    public void check(ChangeSetHeader header) throws FileProblem {
      if (!Receivers.of(header.receivers()).areThose(sealed.receivers())) {
        throw new FileProblem(
            "The first line of " + file + " names other receivers than it was sealed for",
            "Somebody wrote into it: fetch it again from where it came from, or draft again.");
      }
    }
  }
}
