package weftex.store.changeset;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import weftex.core.changeset.Alike;
import weftex.core.changeset.ChangeSetProblem;
import weftex.core.changeset.ChangeSetReader;
import weftex.core.changeset.RowChange;
import weftex.store.Refusal;

/** Passes over some of the changes of a file, a few at a time. */
public final class ChangePass {
  private static final int CHUNK = 500;
  private static final long CHUNK_BYTES = 8L << 20;

  private final ReviewedFile reviewed;
  private final Function<RowChange, Optional<RowChange>> pick;

  private ChangePass(ReviewedFile reviewed, Function<RowChange, Optional<RowChange>> pick) {
    this.reviewed = reviewed;
    this.pick = pick;
  }

  /** Over those that are going to be made, as they were decided. */
  public static ChangePass ofMade(ReviewedFile reviewed) {
    return new ChangePass(reviewed, reviewed.review()::effective);
  }

  /** Over those of which somebody decided that the target stays as it is. */
  public static ChangePass ofSettled(ReviewedFile reviewed) {
    return new ChangePass(reviewed, reviewed.review()::settled);
  }

  /** Takes rows that both copies have alike. */
  public interface AlikeSink {
    void accept(Alike row) throws IOException;
  }

  /** Over the rows that both copies have alike. */
  public static void overAlike(ReviewedFile reviewed, AlikeSink sink) throws IOException, Refusal {
    if (!reviewed.hasAlike()) {
      return;
    }
    try (InputStream in = new BufferedInputStream(Files.newInputStream(reviewed.file()), 1 << 16)) {
      ChangeSetReader.Contents contents =
          ChangeSetReader.read(
              in,
              new ChangeSetReader.Visitor() {
                @Override
                public void alike(Alike row) throws IOException {
                  sink.accept(row);
                }
              });
      if (!contents.sha256().equals(reviewed.contents().sha256())) {
        throw movedUnderUs(reviewed);
      }
    } catch (ChangeSetProblem e) {
      throw movedUnderUs(reviewed);
    }
  }

  /** Takes some changes, in the order of applying. */
  public interface ChunkSink {
    void accept(List<RowChange> chunk) throws IOException, SQLException, Refusal;
  }

  /** Carries a failure of the sink through the reader. */
  private static final class Stopped extends IOException {
    private static final long serialVersionUID = 1;

    Stopped(Exception cause) {
      super(cause);
    }
  }

  public void run(ChunkSink sink) throws IOException, SQLException, Refusal {
    if (reviewed.kept().isPresent()) {
      runKept(sink, reviewed.kept().get());
    } else {
      runFile(sink);
    }
  }

  private void runKept(ChunkSink sink, List<RowChange> kept)
      throws IOException, SQLException, Refusal {
    List<RowChange> chunk = new ArrayList<>();
    for (RowChange change : kept) {
      pick.apply(change).ifPresent(chunk::add);
      if (chunk.size() >= CHUNK) {
        sink.accept(List.copyOf(chunk));
        chunk.clear();
      }
    }
    if (!chunk.isEmpty()) {
      sink.accept(chunk);
    }
  }

  private void runFile(ChunkSink sink) throws IOException, SQLException, Refusal {
    List<RowChange> chunk = new ArrayList<>();
    long[] bytes = {0};
    try (InputStream in = new BufferedInputStream(Files.newInputStream(reviewed.file()), 1 << 16)) {
      ChangeSetReader.Contents contents =
          ChangeSetReader.read(
              in,
              new ChangeSetReader.Visitor() {
                @Override
                public void change(RowChange change) throws IOException {
                  Optional<RowChange> effective = pick.apply(change);
                  long weight = effective.map(ChangePass::weight).orElse(0L);
                  if (weight > CHUNK_BYTES) {
                    // Not together with what waits: a row of many megabytes is passed over alone.
                    hand(sink, chunk);
                    bytes[0] = 0;
                  }
                  effective.ifPresent(chunk::add);
                  bytes[0] += weight;
                  if (chunk.size() >= CHUNK || bytes[0] > CHUNK_BYTES) {
                    hand(sink, chunk);
                    bytes[0] = 0;
                  }
                }
              });
      if (!contents.sha256().equals(reviewed.contents().sha256())) {
        throw movedUnderUs(reviewed);
      }
      hand(sink, chunk);
    } catch (ChangeSetProblem e) {
      throw movedUnderUs(reviewed);
    } catch (Stopped e) {
      if (e.getCause() instanceof SQLException sql) {
        throw sql;
      }
      if (e.getCause() instanceof Refusal refusal) {
        throw refusal;
      }
      throw e;
    }
  }

  /** Whether nothing else should be in memory beside a chunk. */
  public static boolean isLong(List<RowChange> chunk) {
    return chunk.size() == 1 && weight(chunk.get(0)) > CHUNK_BYTES;
  }

  private static long weight(RowChange change) {
    return change.before().values().stream().mapToLong(ChangePass::weight).sum()
        + change.after().values().stream().mapToLong(ChangePass::weight).sum();
  }

  private static long weight(weftex.core.row.Value value) {
    return value instanceof weftex.core.row.Value.Text text
        ? text.utf8().length
        : value instanceof weftex.core.row.Value.Binary binary ? binary.bytes().length : 16;
  }

  private static void hand(ChunkSink sink, List<RowChange> chunk) throws IOException {
    try {
      if (!chunk.isEmpty()) {
        sink.accept(List.copyOf(chunk));
      }
      chunk.clear();
    } catch (SQLException | Refusal e) {
      throw new Stopped(e);
    }
  }

  private static Refusal movedUnderUs(ReviewedFile reviewed) {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The change set "
            + reviewed.file()
            + " was written to while it was being applied. Nothing was changed.",
        "Approve it again, and apply it when nobody else is at it.");
  }
}
