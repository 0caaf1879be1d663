package weftex.core.row;

import java.io.ByteArrayOutputStream;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.function.Function;

/** A piece of a text in which numbers of added rows are still open. */
public sealed interface Part {

  /** Writes the piece with the numbers that the rows got. */
  void settle(Function<RowName, BigInteger> numbers, ByteArrayOutputStream out);

  /** Bytes that stay as they are; not to be changed. */
  record Literal(byte[] bytes) implements Part {
    @Override
    public void settle(Function<RowName, BigInteger> numbers, ByteArrayOutputStream out) {
      out.writeBytes(bytes);
    }

    @Override
    public boolean equals(Object other) {
      return other instanceof Literal literal && Arrays.equals(bytes, literal.bytes);
    }

    @Override
    public int hashCode() {
      return Arrays.hashCode(bytes);
    }
  }

  /** The number of an added row, in decimal digits. */
  record Number(RowName row) implements Part {
    @Override
    public void settle(Function<RowName, BigInteger> numbers, ByteArrayOutputStream out) {
      out.writeBytes(numbers.apply(row).toString().getBytes(StandardCharsets.US_ASCII));
    }
  }

  /** A text with its length in bytes before it, as PHP serialises it: {@code 5:"abcde"}. */
  record Sized(List<Part> parts) implements Part {
    public Sized {
      parts = List.copyOf(parts);
    }

    @Override
    public void settle(Function<RowName, BigInteger> numbers, ByteArrayOutputStream out) {
      byte[] content = settled(parts, numbers);
      out.writeBytes((content.length + ":\"").getBytes(StandardCharsets.US_ASCII));
      out.writeBytes(content);
      out.write('"');
    }
  }

  /**
   * A text as it is written inside a JSON string.
   *
   * @param slashes whether a slash is written {@code \/}
   * @param unicode whether what is not ASCII is written <code>&#92;uXXXX</code>
   */
  record Quoted(List<Part> parts, boolean slashes, boolean unicode) implements Part {
    public Quoted {
      parts = List.copyOf(parts);
    }

    @Override
    public void settle(Function<RowName, BigInteger> numbers, ByteArrayOutputStream out) {
      out.writeBytes(JsonQuoting.quote(settled(parts, numbers), slashes, unicode));
    }
  }

  /** A text in Base64 (RFC 4648). */
  record Base64(List<Part> parts) implements Part {
    public Base64 {
      parts = List.copyOf(parts);
    }

    @Override
    public void settle(Function<RowName, BigInteger> numbers, ByteArrayOutputStream out) {
      out.writeBytes(java.util.Base64.getEncoder().encode(settled(parts, numbers)));
    }
  }

  /** The pieces for a person: a number that is not known yet is shown as {@code ‹posts#812›}. */
  static String shown(List<Part> parts) {
    StringBuilder text = new StringBuilder();
    for (Part part : parts) {
      if (part instanceof Literal literal) {
        text.append(new String(literal.bytes(), StandardCharsets.UTF_8));
      } else if (part instanceof Number number) {
        text.append('‹').append(number.row()).append('›');
      } else if (part instanceof Sized sized) {
        text.append("…:\"").append(shown(sized.parts())).append('"');
      } else if (part instanceof Quoted quoted) {
        text.append(shown(quoted.parts()));
      } else if (part instanceof Base64 base64) {
        text.append("Base64 of ").append(shown(base64.parts()));
      }
    }
    return text.toString();
  }

  /** Writes pieces one after the other. */
  static byte[] settled(List<Part> parts, Function<RowName, BigInteger> numbers) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    parts.forEach(part -> part.settle(numbers, out));
    return out.toByteArray();
  }
}
