package weftex.core.value;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** Writes a container with other members, in the manner of the one that it takes the place of. */
public final class Composer {
  private Composer() {}

  /**
   * A member as it is written.
   *
   * @param key its key; empty in a list without keys
   */
  public record Member(byte[] key, byte[] value) {}

  /** Writes a container with these members. */
  public static byte[] compose(Structure in, Node like, List<Member> members) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    if (in.syntax() == Syntax.SERIALIZED) {
      out.writeBytes(ascii(in.head(like) + members.size() + ":{"));
      members.forEach(
          member -> {
            out.writeBytes(member.key());
            out.writeBytes(member.value());
          });
      out.write('}');
      return out.toByteArray();
    }
    Manner manner = Manner.of(in, like);
    out.write(like.kind() == Node.Kind.LIST ? '[' : '{');
    for (int i = 0; i < members.size(); i++) {
      out.writeBytes(i == 0 ? manner.open() : manner.between());
      if (like.kind() != Node.Kind.LIST) {
        out.writeBytes(members.get(i).key());
        out.writeBytes(manner.colon());
      }
      out.writeBytes(members.get(i).value());
    }
    if (!members.isEmpty()) {
      out.writeBytes(manner.close());
    }
    out.write(like.kind() == Node.Kind.LIST ? ']' : '}');
    return out.toByteArray();
  }

  /** Writes a list with these values; the keys of a serialised one count from zero again. */
  public static byte[] composeList(Structure in, Node like, List<byte[]> values) {
    List<Member> members = new java.util.ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      byte[] key = in.syntax() == Syntax.SERIALIZED ? ascii("i:" + i + ";") : new byte[0];
      members.add(new Member(key, values.get(i)));
    }
    return compose(in, like, members);
  }

  /** The white space and signs between the members of a JSON container. */
  private record Manner(byte[] open, byte[] between, byte[] colon, byte[] close) {
    static Manner of(Structure in, Node like) {
      boolean list = like.kind() == Node.Kind.LIST;
      List<Node> first = list ? like.values() : like.keys();
      if (first.isEmpty()) {
        return new Manner(ascii(""), ascii(","), ascii(":"), ascii(""));
      }
      byte[] open = in.slice(like.contentFrom(), first.get(0).from());
      byte[] between =
          first.size() > 1
              ? in.slice(like.values().get(0).to(), first.get(1).from())
              : ascii("," + new String(open, StandardCharsets.US_ASCII));
      byte[] colon =
          list ? ascii("") : in.slice(like.keys().get(0).to(), like.values().get(0).from());
      int last = like.values().size() - 1;
      return new Manner(
          open, between, colon, in.slice(like.values().get(last).to(), like.contentTo()));
    }
  }

  private static byte[] ascii(String text) {
    return text.getBytes(StandardCharsets.US_ASCII);
  }
}
