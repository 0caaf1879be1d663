package weftex.store.changeset;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.changeset.Action;
import weftex.core.changeset.Alike;
import weftex.core.changeset.ChangeSetHeader;
import weftex.core.changeset.ChangeSetProblem;
import weftex.core.changeset.ChangeSetReader;
import weftex.core.changeset.Review;
import weftex.core.changeset.RowChange;
import weftex.core.changeset.SchemaChange;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.store.Refusal;

/**
 * A change set in a file, with what its decisions make of it.
 *
 * @param schema new tables and columns, in the order of making
 * @param fresh the changes that add numbered rows, in the order of applying
 * @param kept all changes, if they are few enough to be kept in memory; else the file is read again
 * @param hasAlike whether there are rows that both copies have alike
 */
public record ReviewedFile(
    Path file,
    ChangeSetReader.Contents contents,
    Review review,
    List<SchemaChange> schema,
    List<Fresh> fresh,
    Optional<List<RowChange>> kept,
    boolean hasAlike) {

  /** A larger file is not kept: its values take about twice as much in memory. */
  private static final long KEPT_UP_TO = 32L << 20;

  /**
   * A numbered row that a change adds.
   *
   * @param renumbered whether another row has or had its number on the target
   * @param comesBack whether it is to have the number that it had on the target before
   */
  public record Fresh(int change, RowName row, boolean renumbered, boolean comesBack) {

    /** The row that a change adds, if it has a number. */
    static Optional<Fresh> of(RowChange change) {
      if (change.fresh().isPresent()) {
        return Optional.of(
            new Fresh(change.id(), change.fresh().get(), change.renumbered(), false));
      }
      boolean numbered =
          change.action() == Action.ADD
              && change.key().size() == 1
              && change.key().values().iterator().next() instanceof Value.Whole;
      return numbered
          ? Optional.of(
              new Fresh(
                  change.id(),
                  new RowName(
                      change.table(),
                      ((Value.Whole) change.key().values().iterator().next()).number()),
                  false,
                  true))
          : Optional.empty();
    }
  }

  /**
   * Reads a change set and takes in its decisions.
   *
   * @throws Refusal if it is not there, not a change set, cut short, altered, or of a newer format
   */
  public static ReviewedFile read(Path file) throws Refusal {
    Review review = new Review();
    List<SchemaChange> schema = new ArrayList<>();
    List<Fresh> fresh = new ArrayList<>();
    List<RowChange> kept = new ArrayList<>();
    boolean[] alike = {false};
    return refusing(
        file,
        () -> {
          try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
            boolean keep = Files.size(file) <= KEPT_UP_TO;
            ChangeSetReader.Contents contents =
                ChangeSetReader.read(
                    in,
                    new ChangeSetReader.Visitor() {
                      @Override
                      public void schema(SchemaChange change) {
                        review.add(change);
                        schema.add(change);
                      }

                      @Override
                      public void alike(Alike row) {
                        alike[0] = true;
                      }

                      @Override
                      public void change(RowChange change) {
                        review.add(change);
                        Fresh.of(change).ifPresent(fresh::add);
                        if (keep) {
                          kept.add(change);
                        }
                      }
                    });
            contents.held().values().forEach(review::add);
            return new ReviewedFile(
                file,
                contents,
                review,
                schema,
                fresh,
                keep ? Optional.of(kept) : Optional.empty(),
                alike[0]);
          }
        });
  }

  /**
   * Reads the header alone, which says between which copies a change set goes.
   *
   * @throws Refusal if it is not there, not a change set, or of a newer format
   */
  public static ChangeSetHeader header(Path file) throws Refusal {
    return refusing(
        file,
        () -> {
          try (InputStream in = Files.newInputStream(file)) {
            return ChangeSetReader.header(in);
          }
        });
  }

  /** Passes over a change set that was read and found whole before. */
  public static void pass(Path file, ChangeSetReader.Visitor visitor) throws IOException {
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      ChangeSetReader.read(in, visitor);
    } catch (ChangeSetProblem e) {
      throw new IOException("the change set was written to while it was read", e);
    }
  }

  /** Something that reads a change set. */
  interface Reading<T> {
    T read() throws IOException, ChangeSetProblem;
  }

  /** Reads, and words whatever is wrong with the file. */
  static <T> T refusing(Path file, Reading<T> reading) throws Refusal {
    try {
      return reading.read();
    } catch (NoSuchFileException e) {
      throw refusal(
          "There is no change set " + file + ".",
          "Name another file, or write one with 'weftex draft'.");
    } catch (IOException e) {
      throw refusal(
          "The change set " + file + " can't be read: " + e.getMessage() + ".",
          "Check the file and its permissions.");
    } catch (IllegalArgumentException e) {
      throw refusal(
          "A decision in " + file + " does not fit its changes: " + e.getMessage(),
          "Draft again with 'weftex draft'.");
    } catch (ChangeSetProblem e) {
      throw problem(file, e);
    }
  }

  /**
   * Goes through rows as they are and as they will be, in the order of applying.
   *
   * @param most how many rows at the most
   */
  public void eachMade(int most, TouchedRows sink) throws IOException, Refusal {
    int[] left = {most};
    try {
      ChangePass.ofMade(this)
          .run(
              chunk -> {
                for (RowChange change : chunk) {
                  if (left[0]-- > 0) {
                    sink.accept(change.table(), change.before(), outcome(change));
                  }
                }
              });
    } catch (SQLException e) {
      throw new IllegalStateException("nothing here asks a database", e);
    }
  }

  private static Map<String, Value> outcome(RowChange change) {
    if (change.action() == Action.REMOVE) {
      return Map.of();
    }
    Map<String, Value> outcome = new LinkedHashMap<>(change.before());
    outcome.putAll(change.after());
    return outcome;
  }

  /** The new tables and columns that are going to be made. */
  public List<SchemaChange> madeSchema() {
    return schema.stream()
        .filter(change -> review.standing(change.id()) == Review.Standing.MADE)
        .toList();
  }

  /** The tables of the header as they are once the decisions are followed. */
  public List<ChangeSetHeader.TableColumns> tables() {
    return contents.header().tables().stream()
        .map(review::decided)
        .flatMap(Optional::stream)
        .toList();
  }

  private static Refusal problem(Path file, ChangeSetProblem e) {
    String place = "The change set " + file + ", line " + e.line() + ": " + e.getMessage() + ".";
    return switch (e.kind()) {
      case NOT_A_CHANGE_SET -> refusal(place, "Name a file that 'weftex draft' has written.");
      case NEWER_FORMAT ->
          refusal(place, "Use the version of Weftex that wrote it, or draft again.");
      case CUT_SHORT ->
          refusal(place + " It was cut short.", "Fetch the whole file again, or draft again.");
      case TORN ->
          refusal(
              place + " It was cut off while it was written.",
              "'weftex review "
                  + file
                  + " --list' takes that line away; what was decided before it stands.");
      case ALTERED, MALFORMED ->
          refusal(
              place + " It was altered after it was written.",
              "Draft again; decisions are made with 'weftex review', not in an editor.");
    };
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", next);
  }
}
