package weftex.core.change;

import java.util.Optional;

/** What a row change does to the target. */
public enum Action {
  ADD,
  UPDATE,
  REMOVE;

  private final String label = name().toLowerCase(java.util.Locale.ROOT);

  /** The action of a name; empty if there is none of that name. */
  public static Optional<Action> of(String label) {
    for (Action action : values()) {
      if (action.label.equals(label)) {
        return Optional.of(action);
      }
    }
    return Optional.empty();
  }

  /** What takes it back. */
  public Action inverse() {
    return switch (this) {
      case ADD -> REMOVE;
      case UPDATE -> UPDATE;
      case REMOVE -> ADD;
    };
  }

  /** The name in files and on screens. */
  public String label() {
    return label;
  }
}
