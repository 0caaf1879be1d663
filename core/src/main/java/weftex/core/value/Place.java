package weftex.core.value;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;

/**
 * Where in a structured value something stands: the keys on the way to it. Names are made only when
 * somebody asks.
 */
public final class Place {
  /** The value as a whole. */
  public static final Place WHOLE = new Place(Optional.empty(), null, null, 0, false);

  private final Optional<Place> parent;
  private final Structure structure;
  private final Node container;
  private final int index;
  private final boolean key;

  private Place(
      Optional<Place> parent, Structure structure, Node container, int index, boolean key) {
    this.parent = parent;
    this.structure = structure;
    this.container = container;
    this.index = index;
    this.key = key;
  }

  Place member(Structure in, Node of, int at, boolean isKey) {
    return new Place(Optional.of(this), in, of, at, isKey);
  }

  /** Whether this is a member's key, not its value. */
  public boolean isKey() {
    return key;
  }

  /** The keys from the outside in; empty for the value as a whole. */
  public List<String> path() {
    Deque<String> names = new ArrayDeque<>();
    for (Place at = this; at.parent.isPresent(); at = at.parent.get()) {
      names.addFirst(at.structure.name(at.container, at.index));
    }
    return List.copyOf(names);
  }

  @Override
  public String toString() {
    return String.join(" › ", path()) + (key ? " (key)" : "");
  }
}
