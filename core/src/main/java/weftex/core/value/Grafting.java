package weftex.core.value;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Puts some members of a structured value into another, in the place of what stands there. Lists
 * without keys are one thing.
 */
public final class Grafting {
  private final Optional<Structure> into;
  private final Optional<Structure> from;
  private final Chooser chooser;

  /** How much of a place is chosen. */
  public enum Part {
    /** It and all below it. */
    ALL,
    /** Neither it nor anything below it. */
    NONE,
    /** Perhaps some of what is below it. */
    SOME
  }

  /** Says what is chosen. */
  public interface Chooser {
    /**
     * @param path keys from the outside in
     */
    Part of(List<String> path);
  }

  private Grafting(Optional<Structure> into, Optional<Structure> from, Chooser chooser) {
    this.into = into;
    this.from = from;
    this.chooser = chooser;
  }

  /**
   * Grafts.
   *
   * @param into the value as it is; empty if there is none yet
   * @param from where the members come from; one that it lacks is taken away
   * @return the bytes of {@code into} themselves where no chosen member differs; empty if one of
   *     the two has no members, or points to places within itself
   */
  public static Optional<byte[]> graft(Optional<byte[]> into, byte[] from, Chooser chooser) {
    Optional<Structure> below = into.flatMap(Structure::detect);
    Optional<Structure> above = Structure.detect(from);
    boolean fit =
        above.isPresent()
            && !above.get().hasBackReferences()
            && into.isPresent() == below.isPresent()
            && below
                .map(b -> b.syntax() == above.get().syntax() && !b.hasBackReferences())
                .orElse(true);
    return fit
        ? new Grafting(below, above, chooser)
            .node(List.of(), below.map(Structure::root), above.map(Structure::root))
        : Optional.empty();
  }

  private Optional<byte[]> node(List<String> path, Optional<Node> there, Optional<Node> here) {
    Part part = chooser.of(path);
    if (part == Part.NONE || part == Part.SOME && there.isEmpty() && here.isEmpty()) {
      return raw(into, there);
    }
    if (part == Part.ALL) {
      boolean same =
          there.isPresent()
              && here.isPresent()
              && canonical(into, there).equals(canonical(from, here));
      return same ? raw(into, there) : raw(from, here);
    }
    boolean open =
        there.map(Grafting::hasKeys).orElse(true)
            && here.map(Grafting::hasKeys).orElse(true)
            && (there.isEmpty() || here.isEmpty() || isAlike(there.get(), here.get()));
    return open ? members(path, there, here) : raw(into, there);
  }

  private static boolean hasKeys(Node node) {
    return node.kind() == Node.Kind.MAP || node.kind() == Node.Kind.OBJECT;
  }

  private boolean isAlike(Node there, Node here) {
    return there.kind() == here.kind()
        && into.orElseThrow().head(there).equals(from.orElseThrow().head(here));
  }

  private Optional<byte[]> members(List<String> path, Optional<Node> there, Optional<Node> here) {
    Map<String, Integer> inInto = there.map(n -> into.orElseThrow().index(n)).orElse(Map.of());
    Map<String, Integer> inFrom = here.map(n -> from.orElseThrow().index(n)).orElse(Map.of());
    Set<String> keys = new LinkedHashSet<>(inInto.keySet());
    keys.addAll(inFrom.keySet());
    List<Composer.Member> members = new ArrayList<>();
    boolean changed = false;
    for (String key : keys) {
      List<String> place = new ArrayList<>(path);
      place.add(key);
      Optional<Node> was = at(there, inInto.get(key));
      Optional<byte[]> value = node(place, was, at(here, inFrom.get(key)));
      byte[] name =
          was.isPresent()
              ? into.orElseThrow().raw(there.orElseThrow().keys().get(inInto.get(key)))
              : from.orElseThrow().raw(here.orElseThrow().keys().get(inFrom.get(key)));
      value.ifPresent(bytes -> members.add(new Composer.Member(name, bytes)));
      changed |= !Arrays.equals(raw(into, was).orElse(null), value.orElse(null));
    }
    if (!changed && there.isPresent()) {
      return raw(into, there);
    }
    if (there.isPresent()) {
      return Optional.of(Composer.compose(into.orElseThrow(), there.get(), members));
    }
    return members.isEmpty() && !path.isEmpty()
        ? Optional.empty()
        : Optional.of(Composer.compose(from.orElseThrow(), here.orElseThrow(), members));
  }

  private static Optional<Node> at(Optional<Node> container, Integer index) {
    return index == null ? Optional.empty() : container.map(node -> node.values().get(index));
  }

  private static Optional<byte[]> raw(Optional<Structure> in, Optional<Node> node) {
    return node.map(n -> in.orElseThrow().raw(n));
  }

  private static String canonical(Optional<Structure> in, Optional<Node> node) {
    return in.orElseThrow().canonical(node.orElseThrow());
  }
}
