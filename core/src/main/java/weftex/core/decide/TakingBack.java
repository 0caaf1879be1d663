package weftex.core.decide;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;
import weftex.core.change.Change;

/** Which changes can't stay once some others are taken back. Memory grows with what is needed. */
public final class TakingBack {
  private final Map<Integer, List<Integer>> needing = new HashMap<>();

  /** Takes in a change, in any order. */
  public void see(Change change) {
    change.needs().forEach(need -> needs(change.id(), need.change()));
    change.with().ifPresent(whole -> needs(change.id(), whole));
  }

  private void needs(int change, int needed) {
    needing.computeIfAbsent(needed, unused -> new ArrayList<>()).add(change);
  }

  /** The chosen changes, all parts of what they are about, and all that needs one of them. */
  public SortedSet<Integer> of(Collection<Integer> chosen) {
    SortedSet<Integer> all = new TreeSet<>(chosen);
    Deque<Integer> open = new ArrayDeque<>(all);
    while (!open.isEmpty()) {
      for (int change : needing.getOrDefault(open.remove(), List.of())) {
        if (all.add(change)) {
          open.add(change);
        }
      }
    }
    return all;
  }
}
