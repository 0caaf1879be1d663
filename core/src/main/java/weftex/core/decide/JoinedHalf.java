package weftex.core.decide;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import weftex.core.change.ChangeSetHeader;
import weftex.core.row.Value;
import weftex.core.signoff.Decision;

/** One of the two change sets that are joined. */
final class JoinedHalf {
  final ChangeSetHeader header;
  final SortedMap<Integer, Decision> held;
  final Map<Place, Integer> schema = new LinkedHashMap<>();
  final Map<Integer, Value.Digest> statements = new HashMap<>();
  final Map<Place, Joining.Seen> rows = new LinkedHashMap<>();
  final List<Integer> order = new ArrayList<>();
  final Map<Integer, List<Integer>> withAny = new HashMap<>();
  final Removals removals = new Removals();

  JoinedHalf(ChangeSetHeader header, SortedMap<Integer, Decision> held) {
    this.header = header;
    this.held = held;
  }
}
