package weftex.cli.screen;

import java.util.Collection;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.change.Review;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;

/**
 * How the changes of a change set stand, counted when it is asked for and until something changes.
 */
final class Standings {
  private Review review;
  private Collection<Decision> held;
  private final Map<Thing, Counts> counts = new IdentityHashMap<>();
  private final Map<Review.Standing, Integer> standings = new EnumMap<>(Review.Standing.class);
  private final Set<Integer> decided = new HashSet<>();

  /** How many changes of a thing stand how. */
  record Counts(Map<Review.Standing, Integer> standings) {
    boolean has(Review.Standing standing) {
      return standings.containsKey(standing);
    }

    /** How it stands for the list: what needs a decision first, then how most of it stands. */
    Review.Standing mostly() {
      if (has(Review.Standing.OPEN)) {
        return Review.Standing.OPEN;
      }
      return standings.entrySet().stream().max(Map.Entry.comparingByValue()).orElseThrow().getKey();
    }
  }

  /** Forgets what was counted. */
  void changed(Review now, Collection<Decision> holding) {
    review = now;
    held = holding;
    counts.clear();
    standings.clear();
    decided.clear();
  }

  /** How many changes of the whole change set stand how. */
  Map<Review.Standing, Integer> all() {
    if (standings.isEmpty()) {
      standings.putAll(standings(List.copyOf(review.ids())));
    }
    return standings;
  }

  private Map<Review.Standing, Integer> standings(List<Integer> ids) {
    Map<Review.Standing, Integer> standings = new EnumMap<>(Review.Standing.class);
    for (int id : ids) {
      standings.merge(review.standing(id), 1, Integer::sum);
    }
    return standings;
  }

  /** Those of a thing. */
  Counts of(Thing thing) {
    Counts known = counts.get(thing);
    if (known == null) {
      known = new Counts(standings(thing.numbers()));
      counts.put(thing, known);
    }
    return known;
  }

  /** Whether somebody, or a rule, decided something about a thing. */
  boolean isDecided(Thing thing) {
    return thing.numbers().stream().anyMatch(this::isDecided);
  }

  boolean isDecided(int id) {
    if (decided.isEmpty()) {
      held.stream()
          .filter(decision -> decision.answer() != Answer.NOTE)
          .forEach(decision -> decided.addAll(decision.changes()));
    }
    return decided.contains(id);
  }

  /** The changes of which something is left to decide. */
  Set<Integer> open() {
    Set<Integer> open = new HashSet<>();
    for (int id : review.ids()) {
      if (review.standing(id) == Review.Standing.OPEN) {
        open.add(id);
      }
    }
    return open;
  }
}
