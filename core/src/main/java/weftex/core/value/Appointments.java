package weftex.core.value;

import java.io.ByteArrayOutputStream;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Optional;

/**
 * A serialised table of appointments: seconds since 1970, ascending, each with hooks, each with
 * calls by the MD5 of their serialised arguments ({@code {schedule: false, args: [12]}}). What else
 * is in it stays, byte for byte.
 */
public final class Appointments {
  private final Structure table;

  private Appointments(Structure table) {
    this.table = table;
  }

  /**
   * Adds a call with one number as its argument.
   *
   * @return the table with it; empty if it is there already, or if the value is no such table
   */
  public static Optional<byte[]> with(byte[] value, long seconds, String hook, BigInteger number) {
    Optional<Structure> table = Structure.detect(value);
    if (table.isEmpty()
        || table.get().syntax() != Syntax.SERIALIZED
        || table.get().root().kind() != Node.Kind.MAP) {
      return Optional.empty();
    }
    return new Appointments(table.get()).add(seconds, hook, number);
  }

  private Optional<byte[]> add(long seconds, String hook, BigInteger number) {
    String arguments = "a:1:{i:0;i:" + number + ";}";
    String signature = md5(arguments);
    String call = text(signature) + "a:2:{s:8:\"schedule\";b:0;s:4:\"args\";" + arguments + "}";
    Node root = table.root();
    int at = indexOf(root, String.valueOf(seconds));
    if (at < 0) {
      String whole = "i:" + seconds + ";a:1:{" + text(hook) + "a:1:{" + call + "}}";
      return Optional.of(
          inserted(root, before(root, seconds), whole.getBytes(StandardCharsets.UTF_8)));
    }
    Node hooks = root.values().get(at);
    if (hooks.kind() != Node.Kind.MAP) {
      return Optional.empty();
    }
    int called = indexOf(hooks, hook);
    if (called < 0) {
      byte[] more = (text(hook) + "a:1:{" + call + "}").getBytes(StandardCharsets.UTF_8);
      return Optional.of(around(hooks, inserted(hooks, hooks.contentTo(), more)));
    }
    Node calls = hooks.values().get(called);
    if (calls.kind() != Node.Kind.MAP || indexOf(calls, signature) >= 0) {
      return Optional.empty();
    }
    byte[] more = call.getBytes(StandardCharsets.UTF_8);
    return Optional.of(around(calls, inserted(calls, calls.contentTo(), more)));
  }

  private int indexOf(Node map, String key) {
    for (int i = 0; i < map.keys().size(); i++) {
      if (table.name(map, i).equals(key)) {
        return i;
      }
    }
    return -1;
  }

  /** Where a time belongs: before the first later one, and before what is no time. */
  private int before(Node root, long seconds) {
    for (int i = 0; i < root.keys().size(); i++) {
      boolean time = root.keys().get(i).kind() == Node.Kind.WHOLE;
      if (!time || Long.parseLong(table.name(root, i)) > seconds) {
        return root.keys().get(i).from();
      }
    }
    return root.contentTo();
  }

  /** A map with one more member, which is put at a position of the bytes. */
  private byte[] inserted(Node map, int at, byte[] member) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    String head = table.head(map) + (map.keys().size() + 1) + ":{";
    out.writeBytes(head.getBytes(StandardCharsets.ISO_8859_1));
    out.writeBytes(table.slice(map.contentFrom(), at));
    out.writeBytes(member);
    out.writeBytes(table.slice(at, map.to()));
    return out.toByteArray();
  }

  /** The whole value with a part of it replaced. */
  private byte[] around(Node part, byte[] replaced) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.writeBytes(table.slice(0, part.from()));
    out.writeBytes(replaced);
    out.writeBytes(table.slice(part.to(), table.bytes().length));
    return out.toByteArray();
  }

  private static String text(String text) {
    return "s:" + text.getBytes(StandardCharsets.UTF_8).length + ":\"" + text + "\";";
  }

  private static String md5(String text) {
    try {
      byte[] digest =
          MessageDigest.getInstance("MD5").digest(text.getBytes(StandardCharsets.UTF_8));
      return HexFormat.of().formatHex(digest);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has MD5", e);
    }
  }
}
