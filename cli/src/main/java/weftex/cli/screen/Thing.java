package weftex.cli.screen;

import java.util.List;
import weftex.core.change.Action;

/**
 * What a person sees as one thing, with the changes of it.
 *
 * @param does what happens to the thing itself; {@code update} where only parts of it change
 * @param numbers its changes, in the order of applying
 * @param renumbered whether one of its rows gets a new number
 * @param search everything by which it can be found, in lower case
 */
record Thing(
    String kind, String name, Does does, List<Integer> numbers, boolean renumbered, String search) {

  /** What happens to a thing. */
  enum Does {
    ADDED("added"),
    UPDATED(""),
    REMOVED("removed"),
    CREATED("created");

    private final String label;

    Does(String label) {
      this.label = label;
    }

    /** In words; empty if it is what usually happens. */
    String label() {
      return label;
    }

    static Does of(Action action) {
      return switch (action) {
        case ADD -> ADDED;
        case UPDATE -> UPDATED;
        case REMOVE -> REMOVED;
      };
    }
  }
}
