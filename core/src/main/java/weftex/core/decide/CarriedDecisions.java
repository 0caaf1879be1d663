package weftex.core.decide;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/**
 * Takes the decisions of an earlier draft along to a new one. A decision fits if its change is
 * there again and, for a side or a value, if both copies still say in the columns in question what
 * they said when it was made. Show it the old changes, then the new ones, then ask.
 */
public final class CarriedDecisions {
  private final SortedMap<Integer, Decision> held;
  private final Set<Integer> decided = new HashSet<>();
  private final Map<Place, Old> old = new HashMap<>();
  private final Map<Integer, Place> places = new HashMap<>();
  private final Map<Place, New> found = new HashMap<>();

  /** What a change said when it was decided. */
  private record Old(
      int id, String does, Item thing, Map<String, Value.Digest> sides, Value.Digest conflicts) {}

  private record New(
      int id, String does, Map<String, Value.Digest> sides, Value.Digest conflicts) {}

  /**
   * A decision that does not fit any more.
   *
   * @param change the number that its change had
   * @param thing what that was about
   * @param because a sentence's end: why it fell away
   */
  public record Fallen(int change, Item thing, Decision decision, String because) {}

  /**
   * What became of the decisions.
   *
   * @param carried in the old order, with the new numbers
   * @param fallen one for each change and decision that does not fit
   */
  public record Outcome(List<Decision> carried, List<Fallen> fallen) {}

  /**
   * @param held the decisions of the earlier draft that hold, by number; those of rules are left to
   *     the rules
   */
  public CarriedDecisions(SortedMap<Integer, Decision> held) {
    this.held = held;
    held.values().stream()
        .filter(decision -> !decision.isByRule())
        .forEach(decision -> decided.addAll(decision.changes()));
  }

  /** Sees a new table or column of the earlier draft. */
  public void old(SchemaChange change) {
    if (decided.contains(change.id())) {
      enter(
          Place.of(change),
          new Old(change.id(), change.does(), change.item(), Map.of(), nothing()));
    }
  }

  /** Sees a change of the earlier draft. */
  public void old(RowChange change) throws IOException {
    if (decided.contains(change.id())) {
      enter(
          Place.of(change),
          new Old(
              change.id(),
              change.action().label(),
              change.thing(),
              CarriedSides.sides(change),
              CarriedSides.conflicts(change)));
    }
  }

  private void enter(Place place, Old change) {
    old.put(place, change);
    places.put(change.id(), place);
  }

  /** Sees a new table or column of the new draft. */
  public void fresh(SchemaChange change) {
    if (old.containsKey(Place.of(change))) {
      found.put(Place.of(change), new New(change.id(), change.does(), Map.of(), nothing()));
    }
  }

  /** Sees a change of the new draft. */
  public void fresh(RowChange change) throws IOException {
    if (old.containsKey(Place.of(change))) {
      found.put(
          Place.of(change),
          new New(
              change.id(),
              change.action().label(),
              CarriedSides.sides(change),
              CarriedSides.conflicts(change)));
    }
  }

  /**
   * What fits.
   *
   * @param review with the changes of the new draft
   */
  public Outcome outcome(Review review) {
    List<Decision> carried = new ArrayList<>();
    List<Fallen> fallen = new ArrayList<>();
    for (Decision decision : held.values()) {
      if (decision.isByRule()) {
        continue;
      }
      List<Integer> fitting = new ArrayList<>();
      for (int id : decision.changes()) {
        Old before = old.get(places.get(id));
        Optional<String> reason = reason(decision, before, review);
        if (reason.isEmpty()) {
          fitting.add(found.get(places.get(id)).id());
        } else {
          fallen.add(new Fallen(id, before.thing(), decision, reason.get()));
        }
      }
      if (!fitting.isEmpty()) {
        carried.add(decision.about(fitting));
      }
    }
    return new Outcome(carried, fallen);
  }

  private Optional<String> reason(Decision decision, Old before, Review review) {
    New now = found.get(places.get(before.id()));
    if (now == null || !now.does().equals(before.does())) {
      return Optional.of("the copies do not differ there any more, or in another way");
    }
    if (review.refusal(now.id(), decision.column(), decision.answer()).isPresent()) {
      return Optional.of("there is nothing to decide there any more");
    }
    boolean ofValues = decision.answer().isOfPassages() || decision.answer() == Answer.VALUE;
    boolean same =
        !ofValues
            || decision
                .column()
                .map(name -> Objects.equals(before.sides().get(name), now.sides().get(name)))
                .orElse(before.conflicts().equals(now.conflicts()));
    return same
        ? Optional.empty()
        : Optional.of("a copy says something else there since it was decided");
  }

  private static Value.Digest nothing() {
    return Value.Digest.of(new byte[0]);
  }
}
