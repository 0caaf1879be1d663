package weftex.core.value;

import java.io.ByteArrayOutputStream;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import weftex.core.row.Value;

/** A serialised map from numbers of rows to short texts, such as what each row's status was. */
public final class RememberedTexts {
  private RememberedTexts() {}

  /** The map as a value, in its order. */
  public static Value of(Map<BigInteger, String> texts) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    write(out, "a:" + texts.size() + ":{");
    texts.forEach(
        (number, text) -> {
          int length = text.getBytes(StandardCharsets.UTF_8).length;
          write(out, "i:" + number + ";s:" + length + ":\"" + text + "\";");
        });
    write(out, "}");
    return new Value.Text(out.toByteArray());
  }

  private static void write(ByteArrayOutputStream out, String text) {
    out.writeBytes(text.getBytes(StandardCharsets.UTF_8));
  }

  /** Reads it; what is neither a number nor a text is passed over. */
  public static Map<BigInteger, String> read(Value value) {
    Map<BigInteger, String> texts = new LinkedHashMap<>();
    Optional<Structure> found =
        value instanceof Value.Text text ? Structure.detect(text.utf8()) : Optional.empty();
    if (found.isEmpty()
        || found.get().syntax() != Syntax.SERIALIZED
        || found.get().root().kind() != Node.Kind.MAP) {
      return texts;
    }
    Node root = found.get().root();
    for (int i = 0; i < root.keys().size(); i++) {
      Node text = root.values().get(i);
      if (root.keys().get(i).kind() == Node.Kind.WHOLE && text.kind() == Node.Kind.TEXT) {
        byte[] bytes = found.get().slice(text.contentFrom(), text.contentTo());
        texts.put(
            new BigInteger(found.get().name(root, i)), new String(bytes, StandardCharsets.UTF_8));
      }
    }
    return texts;
  }
}
