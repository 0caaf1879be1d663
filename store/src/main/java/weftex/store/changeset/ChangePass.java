package weftex.store.changeset;

import java.io.IOException;
import java.io.InputStream;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Alike;
import weftex.core.change.DecidedChange;
import weftex.core.change.KeptChange;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.changeset.ChangeSetProblem;
import weftex.core.changeset.ChangeSetReader;
import weftex.core.row.Value;
import weftex.store.Refusal;

/**
 * Passes over what was decided of a change set, a few changes at a time. A file that is no longer
 * what was read is refused.
 */
public final class ChangePass {
  private static final int CHUNK = 500;
  private static final long CHUNK_BYTES = 8L << 20;

  private final ChangeSetFile file;
  private final Review review;

  public ChangePass(ChangeSetFile file) {
    this.file = file;
    this.review = file.review();
  }

  /** Takes some changes, in the order of applying. */
  public interface ChunkSink {
    void accept(List<DecidedChange> chunk) throws IOException, SQLException, Refusal;
  }

  /** Takes what stays as it is on the target. */
  public interface KeptSink {
    /** A person decided so. */
    void kept(KeptChange change) throws IOException, SQLException, Refusal;

    /** Both copies have it alike. */
    void alike(Alike row) throws IOException, SQLException, Refusal;
  }

  /** Carries a failure of a sink through the reader. */
  private static final class Stopped extends IOException {
    private static final long serialVersionUID = 1;

    Stopped(Exception cause) {
      super(cause);
    }
  }

  /** Over the changes that are going to be made. */
  public void overMade(ChunkSink sink) throws IOException, SQLException, Refusal {
    Chunks chunks = new Chunks(sink);
    if (file.kept().isPresent()) {
      for (RowChange change : file.kept().get().changes()) {
        Optional<DecidedChange> decided = review.decided(change);
        if (decided.isPresent()) {
          chunks.add(decided.get());
        }
      }
    } else {
      read(
          new ChangeSetReader.Visitor() {
            @Override
            public void change(RowChange change) throws IOException {
              Optional<DecidedChange> decided = review.decided(change);
              if (decided.isPresent()) {
                carrying(() -> chunks.add(decided.get()));
              }
            }
          });
    }
    chunks.end();
  }

  /** Over what stays as it is on the target. */
  public void overKept(KeptSink sink) throws IOException, SQLException, Refusal {
    if (file.kept().isPresent()) {
      for (RowChange change : file.kept().get().changes()) {
        Optional<KeptChange> kept = review.kept(change);
        if (kept.isPresent()) {
          sink.kept(kept.get());
        }
      }
      for (Alike row : file.kept().get().alike()) {
        sink.alike(row);
      }
      return;
    }
    if (file.contents().alike() == 0 && !review.keepsAny()) {
      return;
    }
    read(
        new ChangeSetReader.Visitor() {
          @Override
          public void change(RowChange change) throws IOException {
            Optional<KeptChange> kept = review.kept(change);
            if (kept.isPresent()) {
              carrying(() -> sink.kept(kept.get()));
            }
          }

          @Override
          public void alike(Alike row) throws IOException {
            carrying(() -> sink.alike(row));
          }
        });
  }

  private interface Step {
    void run() throws IOException, SQLException, Refusal;
  }

  private static void carrying(Step step) throws IOException {
    try {
      step.run();
    } catch (SQLException | Refusal e) {
      throw new Stopped(e);
    }
  }

  private void read(ChangeSetReader.Visitor visitor) throws IOException, SQLException, Refusal {
    try (InputStream in = file.open()) {
      ChangeSetContents contents = ChangeSetReader.read(in, visitor);
      if (!contents.sha256().equals(file.contents().sha256())) {
        throw movedUnderUs();
      }
    } catch (ChangeSetProblem e) {
      throw movedUnderUs();
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

  /** Gathers changes until there are enough of them, or enough bytes. */
  private static final class Chunks {
    private final ChunkSink sink;
    private List<DecidedChange> chunk = new ArrayList<>();
    private long bytes;

    private Chunks(ChunkSink sink) {
      this.sink = sink;
    }

    private void add(DecidedChange change) throws IOException, SQLException, Refusal {
      long weight = weight(change);
      if (weight > CHUNK_BYTES) {
        // Not together with what waits: a row of many megabytes is passed over alone.
        end();
      }
      chunk.add(change);
      bytes += weight;
      if (chunk.size() >= CHUNK || bytes > CHUNK_BYTES) {
        end();
      }
    }

    private void end() throws IOException, SQLException, Refusal {
      List<DecidedChange> full = chunk;
      chunk = new ArrayList<>();
      bytes = 0;
      if (!full.isEmpty()) {
        sink.accept(full);
      }
    }
  }

  private static long weight(DecidedChange change) {
    return weight(change.before()) + weight(change.after());
  }

  private static long weight(Map<String, Value> values) {
    long weight = 0;
    for (Value value : values.values()) {
      weight +=
          value instanceof Value.Text text
              ? text.utf8().length
              : value instanceof Value.Binary binary ? binary.bytes().length : 16;
    }
    return weight;
  }

  private Refusal movedUnderUs() {
    return new Refusal(
        Refusal.Kind.PROTECTED,
        "The change set "
            + file.file()
            + " was written to while it was being applied. Nothing was changed.",
        "Approve it again, and apply it when nobody else is at it.");
  }
}
