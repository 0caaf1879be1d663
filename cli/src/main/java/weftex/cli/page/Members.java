package weftex.cli.page;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.value.Node;
import weftex.core.value.Structure;

/** A structured value, such as a setting, member by member. */
public final class Members {
  private static final int MOST = 2000;
  private static final int MOST_NESTED = 8;

  /** Nineteen digits, more than any number that a CMS hands out. */
  private static final BigInteger FIRST_STAND_IN = new BigInteger("7310000000000000000");

  private Members() {}

  /**
   * The members of a value by their path, keys joined by {@code ›}, in the order of the value;
   * empty if it is not structured or has too many of them.
   */
  public static Optional<Map<String, String>> of(Value value) {
    if (value instanceof Value.Pending pending) {
      return ofPending(pending);
    }
    return value instanceof Value.Text text ? of(text) : Optional.empty();
  }

  /**
   * A number that is not known yet is read as one that stands nowhere else, and shown as its row.
   */
  private static Optional<Map<String, String>> ofPending(Value.Pending pending) {
    Map<RowName, BigInteger> standIns = new LinkedHashMap<>();
    Value.Text settled =
        pending.settled(
            row ->
                standIns.computeIfAbsent(
                    row, r -> FIRST_STAND_IN.add(BigInteger.valueOf(standIns.size()))));
    return of(settled)
        .map(
            members -> {
              members.replaceAll((path, text) -> named(text, standIns));
              return members;
            });
  }

  private static String named(String text, Map<RowName, BigInteger> standIns) {
    String named = text;
    for (Map.Entry<RowName, BigInteger> standIn : standIns.entrySet()) {
      named =
          named.replace(standIn.getValue().toString(), new Value.Fresh(standIn.getKey()).display());
    }
    return named;
  }

  private static Optional<Map<String, String>> of(Value.Text text) {
    return Structure.detect(text.utf8())
        .map(
            structure -> {
              Map<String, String> members = new LinkedHashMap<>();
              gather(structure, structure.root(), "", 0, members);
              return members;
            })
        .filter(members -> members.size() <= MOST);
  }

  private static void gather(
      Structure in, Node node, String path, int nested, Map<String, String> members) {
    if (members.size() > MOST) {
      return;
    }
    if (node.isContainer() && !node.values().isEmpty()) {
      for (int i = 0; i < node.values().size(); i++) {
        String name = in.name(node, i);
        gather(
            in, node.values().get(i), path.isEmpty() ? name : path + " › " + name, nested, members);
      }
      return;
    }
    if (node.kind() == Node.Kind.TEXT) {
      byte[] content = in.content(node);
      Optional<Structure> inner =
          nested < MOST_NESTED ? Structure.detect(content) : Optional.empty();
      if (inner.isPresent()) {
        gather(inner.get(), inner.get().root(), path, nested + 1, members);
      } else {
        members.put(path, new String(content, StandardCharsets.UTF_8));
      }
      return;
    }
    members.put(
        path, node.isContainer() ? "empty" : new String(in.content(node), StandardCharsets.UTF_8));
  }
}
