package weftex.store.file;

import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * The folder of a copy, wherever it is. Paths are relative, with slashes, and harmless by their
 * spelling; that no link leads out of the folder is checked here. What is neither an ordinary file
 * nor a folder is not there.
 */
public interface Folder extends AutoCloseable {
  /** How names of files begin that are not in their place yet; they are not listed. */
  String TEMPORARY = ".weftex-";

  /**
   * A file as it lies there.
   *
   * @param modified when it was last written, as exactly as the folder tells
   */
  record Entry(long bytes, Instant modified) {}

  /**
   * What is directly in a folder, by name, in the order of the names.
   *
   * @param folders names
   */
  record Listing(Map<String, Entry> files, List<String> folders) {
    static final Listing EMPTY = new Listing(Map.of(), List.of());
  }

  /** Opens a content, as often as it is needed. */
  interface Opening {
    InputStream open() throws IOException;
  }

  /** Where it is, in words. */
  String words();

  /** Whether it is on this machine, so that reading costs little. */
  boolean isNear();

  /** What is directly in a folder of it; nothing if that is not there. */
  Listing list(String folder) throws IOException;

  /** A file; empty if there is none. */
  Optional<Entry> find(String path) throws IOException;

  /** Whether anything at all has this name. */
  boolean isTaken(String path) throws IOException;

  InputStream open(String path) throws IOException;

  /**
   * SHA-256 of a file, in 64 hexadecimal digits.
   *
   * @param bytes how long it is expected to be
   */
  String sha256(String path, long bytes) throws IOException;

  /** SHA-256 of several files, in their order. */
  List<String> sha256(List<String> paths) throws IOException;

  /**
   * What a new file is to be like.
   *
   * @param like a file whose mode and owner it gets, if that is there; else what is beside it
   * @param modified when it was last written; else now
   */
  record Manner(Optional<String> like, Optional<Instant> modified) {
    /** Like what is beside it, written now. */
    public static final Manner USUAL = new Manner(Optional.empty(), Optional.empty());
  }

  /**
   * Writes a new file, and makes the folders that it needs, with the mode and owner of what is
   * beside them. It is on the disk when this returns.
   *
   * @param content opened once more where a line was cut, to go on where it was
   * @throws java.nio.file.FileAlreadyExistsException if the name is taken
   */
  void create(String path, Opening content, Manner manner) throws IOException;

  /**
   * Another handle on the same folder, for another thread, closed by whoever asked for it; empty if
   * there is to be no more of them.
   */
  Optional<Folder> beside();

  /** Gives a file another name, which nothing may have yet. */
  void rename(String from, String to) throws IOException;

  /** Puts a file in the place of another one, in one step. */
  void replace(String from, String to) throws IOException;

  /** Deletes a file, if it is there. */
  void delete(String path) throws IOException;

  /** Deletes a folder, if it is there and nothing is in it. */
  void deleteIfEmpty(String folder) throws IOException;

  /** How many bytes there is room for; empty if nobody can say. */
  OptionalLong room() throws IOException;

  @Override
  void close();
}
