package weftex.core.decide;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** Numbers the changes of two change sets anew, and finds what they do not agree on. */
final class JoinedNumbers {

  private final JoinedHalf first;
  private final Map<Integer, Integer> newFirst;
  private final JoinedHalf second;
  private final Map<Integer, Integer> newSecond;
  private final List<String> clashes;
  private final Map<Integer, Integer> shared;

  JoinedNumbers(
      JoinedHalf first,
      Map<Integer, Integer> newFirst,
      JoinedHalf second,
      Map<Integer, Integer> newSecond,
      List<String> clashes,
      Map<Integer, Integer> shared) {
    this.first = first;
    this.newFirst = newFirst;
    this.second = second;
    this.newSecond = newSecond;
    this.clashes = clashes;
    this.shared = shared;
  }

  void number() {
    int next = 1;
    for (int id : first.schema.values()) {
      newFirst.put(id, next++);
    }
    for (Map.Entry<Place, Integer> entry : second.schema.entrySet()) {
      Integer same = first.schema.get(entry.getKey());
      if (same == null) {
        newSecond.put(entry.getValue(), next++);
      } else {
        share(entry.getValue(), same);
        if (!first.statements.get(same).equals(second.statements.get(entry.getValue()))) {
          clashes.add(
              "Both make a table or column of "
                  + entry.getKey().table()
                  + ", each in its own way.");
        }
      }
    }
    for (int id : first.order) {
      newFirst.put(id, next++);
    }
    numberSecond(next);
  }

  void numberSecond(int next) {
    Map<Integer, Joining.Seen> seen = new TreeMap<>();
    Map<Integer, Joining.Seen> same = new HashMap<>();
    second.rows.forEach(
        (place, row) -> {
          seen.put(row.id(), row);
          Optional.ofNullable(first.rows.get(place)).ifPresent(other -> same.put(row.id(), other));
        });
    for (Joining.Seen row : seen.values()) {
      Joining.Seen other = same.get(row.id());
      if (other == null) {
        newSecond.put(row.id(), next++);
        continue;
      }
      share(row.id(), other.id());
      if (!row.content().equals(other.content())) {
        clashes.add(
            "Changes "
                + other.id()
                + " and "
                + row.id()
                + " are about the same row ("
                + row.thing().words()
                + ") and do not say the same.");
      }
    }
  }

  void share(int ofSecond, int ofFirst) {
    newSecond.put(ofSecond, newFirst.get(ofFirst));
    shared.put(ofSecond, ofFirst);
  }
}
