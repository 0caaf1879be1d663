package weftex.core.decide;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import weftex.core.change.Conflict;
import weftex.core.change.Item;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.JsonLines;
import weftex.core.changeset.JsonValues;
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
              sides(change),
              conflicts(change)));
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
          new New(change.id(), change.action().label(), sides(change), conflicts(change)));
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

  /** What both copies say of each column that is written or in conflict. */
  private static Map<String, Value.Digest> sides(RowChange change) throws IOException {
    Map<String, Value> before = new LinkedHashMap<>(change.before());
    Map<String, Value> after = new LinkedHashMap<>(change.after());
    for (Conflict conflict : change.conflicts()) {
      before.putAll(conflict.target());
      after.putAll(conflict.source());
    }
    Map<String, Value.Digest> sides = new HashMap<>();
    for (Map.Entry<String, Value> written : after.entrySet()) {
      Value was = before.getOrDefault(written.getKey(), Value.NULL);
      byte[] both =
          JsonLines.line(
              json -> {
                json.writeFieldName("before");
                JsonValues.write(json, was);
                json.writeFieldName("after");
                JsonValues.write(json, written.getValue());
              });
      sides.put(written.getKey(), Value.Digest.of(both));
    }
    return sides;
  }

  private static Value.Digest conflicts(RowChange change) throws IOException {
    return Value.Digest.of(ChangeSetWriter.bytes(change.conflicts()));
  }

  private static Value.Digest nothing() {
    return Value.Digest.of(new byte[0]);
  }
}
