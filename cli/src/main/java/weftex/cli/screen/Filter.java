package weftex.cli.screen;

import java.util.function.BiPredicate;
import weftex.core.change.Review;

/** Which things are listed. */
enum Filter {
  ALL("all", (thing, desk) -> true),
  OPEN("to decide", (thing, desk) -> desk.standings().of(thing).has(Review.Standing.OPEN)),
  DECIDED("decided", (thing, desk) -> desk.standings().isDecided(thing)),
  SKIPPED("left out", (thing, desk) -> desk.standings().of(thing).has(Review.Standing.SKIPPED)),
  OFFERED("offered", (thing, desk) -> desk.standings().of(thing).has(Review.Standing.OFFERED)),
  RENUMBERED("with a new ID", (thing, desk) -> thing.renumbered());

  private final String label;
  private final BiPredicate<Thing, Desk> lists;

  Filter(String label, BiPredicate<Thing, Desk> lists) {
    this.label = label;
    this.lists = lists;
  }

  String label() {
    return label;
  }

  boolean lists(Thing thing, Desk desk) {
    return lists.test(thing, desk);
  }

  Filter next() {
    return values()[(ordinal() + 1) % values().length];
  }
}
