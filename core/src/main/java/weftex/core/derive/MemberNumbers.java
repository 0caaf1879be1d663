package weftex.core.derive;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.regex.Pattern;
import weftex.core.value.Node;
import weftex.core.value.Structure;

/** Numbers that serialised values hold, by the path to them. */
final class MemberNumbers {

  /** A path that is a number, as in a list, may be any. */
  private static final Pattern POSITION = Pattern.compile("\\d+");

  private MemberNumbers() {}

  record Member(String row, String path) {}

  static void gather(
      Structure in,
      Node node,
      List<String> path,
      String row,
      Map<Member, TreeSet<BigInteger>> members) {
    if (!node.isContainer()) {
      String text = new String(in.content(node), StandardCharsets.UTF_8);
      boolean isNumber =
          (node.kind() == Node.Kind.WHOLE || node.kind() == Node.Kind.TEXT)
              && text.matches("[1-9]\\d{0,17}");
      if (isNumber && !path.isEmpty()) {
        members
            .computeIfAbsent(new Member(row, String.join(".", path)), m -> new TreeSet<>())
            .add(new BigInteger(text));
      }
      return;
    }
    for (int i = 0; i < node.values().size(); i++) {
      String key = in.name(node, i);
      List<String> below = new ArrayList<>(path);
      below.add(POSITION.matcher(key).matches() ? "*" : key);
      gather(in, node.values().get(i), below, row, members);
    }
  }
}
