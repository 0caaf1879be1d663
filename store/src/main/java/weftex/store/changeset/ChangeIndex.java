package weftex.store.changeset;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.changeset.ChangeSetReader;
import weftex.core.changeset.Review;
import weftex.core.changeset.RowChange;
import weftex.core.changeset.SchemaChange;
import weftex.store.Refusal;

/**
 * A change set in a file, known by its outlines: what each change is about and how it stands. The
 * values of a change are read when they are asked for.
 *
 * @param outlines changes of rows with NULL for every value, in the order of applying
 * @param bytes how long the file was when it was read
 */
public record ChangeIndex(
    Path file,
    ChangeSetReader.Contents contents,
    Review review,
    List<SchemaChange> schema,
    List<RowChange> outlines,
    Map<Integer, Place> places,
    long bytes) {

  /** Where a change's line stands. */
  record Place(long offset, int length) {}

  /**
   * Reads a change set.
   *
   * @throws Refusal as {@link ReviewedFile#read}
   */
  public static ChangeIndex read(Path file) throws Refusal {
    return read(file, true);
  }

  /**
   * Reads a change set to be looked at, without checking that it is as it was drafted and approved.
   * Nothing may be decided on it before {@link #read} went well.
   *
   * @throws Refusal as {@link ReviewedFile#read}
   */
  public static ChangeIndex glance(Path file) throws Refusal {
    try {
      return read(file, false);
    } catch (Refusal e) {
      // Whoever reads it whole can tell better what is wrong.
      return read(file, true);
    }
  }

  private static ChangeIndex read(Path file, boolean proof) throws Refusal {
    Review review = new Review();
    List<SchemaChange> schema = new ArrayList<>();
    List<RowChange> outlines = new ArrayList<>();
    Map<Integer, Place> places = new TreeMap<>();
    Place[] next = new Place[1];
    return ReviewedFile.refusing(
        file,
        () -> {
          try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
            long bytes = Files.size(file);
            ChangeSetReader.Contents contents =
                ChangeSetReader.read(
                    in,
                    new ChangeSetReader.Visitor() {
                      @Override
                      public boolean wantsValues() {
                        return false;
                      }

                      @Override
                      public boolean wantsProof() {
                        return proof;
                      }

                      @Override
                      public void place(long offset, int length) {
                        next[0] = new Place(offset, length);
                      }

                      @Override
                      public void schema(SchemaChange change) {
                        review.add(change);
                        schema.add(change);
                      }

                      @Override
                      public void change(RowChange change) {
                        review.add(change);
                        outlines.add(change);
                        places.put(change.id(), next[0]);
                      }
                    });
            contents.held().values().forEach(review::add);
            return new ChangeIndex(file, contents, review, schema, outlines, places, bytes);
          }
        });
  }

  /** A change with its values. */
  public RowChange change(int id) throws IOException {
    Place place = places.get(id);
    ByteBuffer line = ByteBuffer.allocate(place.length());
    try (FileChannel channel = FileChannel.open(file)) {
      long at = place.offset();
      while (line.hasRemaining()) {
        int read = channel.read(line, at);
        if (read < 0) {
          throw new IOException("the change set " + file + " became shorter while it was open");
        }
        at += read;
      }
    }
    return ChangeSetReader.change(line.array());
  }

  /** Whether a change is one of the schema. */
  public boolean isSchema(int id) {
    return id <= schema.size();
  }
}
