package weftex.store.changeset;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.change.Alike;
import weftex.core.change.Outline;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetReader;

/** What is known of the changes after one reading. */
final class GatheredChanges implements ChangeSetReader.Visitor {
  private final boolean proof;
  final Optional<ChangeSetFile.Kept> kept;
  final Review review = new Review();
  final List<SchemaChange> schema = new ArrayList<>();
  final List<Outline> outlines = new ArrayList<>();
  final TreeMap<Integer, ChangeSetFile.Place> places = new TreeMap<>();
  private ChangeSetFile.Place next;

  GatheredChanges(boolean proof, boolean keeps) {
    this.proof = proof;
    this.kept =
        keeps
            ? Optional.of(new ChangeSetFile.Kept(new ArrayList<>(), new ArrayList<>()))
            : Optional.empty();
  }

  @Override
  public boolean wantsValues() {
    return kept.isPresent();
  }

  @Override
  public boolean wantsProof() {
    return proof;
  }

  @Override
  public void place(long offset, int length) {
    next = new ChangeSetFile.Place(offset, length);
  }

  @Override
  public void schema(SchemaChange change) {
    review.add(change);
    schema.add(change);
  }

  @Override
  public void change(RowChange change) {
    kept.orElseThrow().changes().add(change);
    outline(change.outline());
  }

  @Override
  public void outline(Outline change) {
    review.add(change);
    outlines.add(change);
    places.put(change.id(), next);
  }

  @Override
  public void alike(Alike row) {
    kept.orElseThrow().alike().add(row);
  }
}
