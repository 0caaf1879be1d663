package weftex.core.mask;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import weftex.core.row.Column;
import weftex.core.row.Glob;
import weftex.core.row.Row;
import weftex.core.row.Value;
import weftex.core.site.Handling;
import weftex.core.site.TableModel;

/**
 * Makes values up in the place of personal ones. The same value always becomes the same one, in
 * whichever table it stands, so that a person stays one person; two values become two, as far as 54
 * bits tell them apart. Nobody gets back without the secret: what is made up comes from an HMAC
 * (RFC 2104) with SHA-256. Addresses are of domains and networks that reach nobody (RFC 2606, 2544,
 * 3849).
 */
public final class MadeUp {

  /** 54 bits: of a million names two become one with a chance of 1 in 36,000. */
  static final int SYLLABLES = 9;

  private static final String HOST = "masked.example";
  private static final Pattern MAIL = Pattern.compile("[^@\\s]+@[^@\\s]+");
  private static final Pattern IPV4 = Pattern.compile("\\d{1,3}(\\.\\d{1,3}){3}");
  private static final Pattern IPV6 =
      Pattern.compile("[0-9A-Fa-f:]*:[0-9A-Fa-f:.]*:[0-9A-Fa-f:.]*");
  private static final Pattern URL = Pattern.compile("(https?:)?//\\S+");
  private static final Pattern DAY = Pattern.compile("(\\d{4})-\\d\\d-\\d\\d(.*)", Pattern.DOTALL);
  private static final Pattern DIGITS = Pattern.compile("[+(]?\\d[\\d\\s()/.+-]*");
  private static final Pattern SERIALIZED = Pattern.compile("a:\\d+:\\{.*", Pattern.DOTALL);
  private static final Pattern LENGTH = Pattern.compile("\\w+\\((\\d+)\\).*");

  private final byte[] secret;
  private final List<Glob> spared;

  /**
   * @param secret known to the pair alone
   * @param spared patterns; a row of which one personal value matches stays as it is
   */
  public MadeUp(byte[] secret, List<String> spared) {
    this.secret = secret.clone();
    this.spared = spared.stream().map(Glob::of).toList();
  }

  /** A row with made-up values where the model says that they are masked. */
  public Row of(TableModel model, Row row) {
    if (!row.isPresent() || model.handling().masked().isEmpty()) {
      return row;
    }
    List<Value> before = row.values();
    List<Integer> columns =
        model.handling().masked().stream()
            .filter(masked -> masked.when().holdsFor(before))
            .map(Handling.Masked::column)
            .toList();
    boolean stays =
        columns.isEmpty()
            || columns.stream()
                .anyMatch(i -> spared.stream().anyMatch(glob -> glob.matches(before.get(i))));
    if (stays) {
      return row;
    }
    List<Value> values = new ArrayList<>(before);
    for (int i : columns) {
      values.set(i, of(before.get(i), model.table().columns().get(i)));
    }
    return Row.of(row.key(), values);
  }

  /** A value in the place of another one; what is empty stays so. */
  Value of(Value value, Column column) {
    if (value instanceof Value.Text text && text.utf8().length > 0) {
      return Value.text(cut(text(value.display()), column));
    }
    if (value instanceof Value.Whole whole && whole.number().signum() > 0) {
      return new Value.Whole(new BigInteger(digits(whole.number().toString())));
    }
    if (value instanceof Value.Binary binary && binary.bytes().length > 0) {
      byte[] bytes = binary.bytes();
      byte[] made = new byte[bytes.length];
      for (int at = 0; at < made.length; at += Long.BYTES) {
        byte[] some = hmac(at + " " + new BigInteger(1, bytes).toString(16));
        System.arraycopy(some, 0, made, at, Math.min(Long.BYTES, made.length - at));
      }
      return new Value.Binary(made);
    }
    return value;
  }

  private String text(String real) {
    String key = real.strip().toLowerCase(Locale.ROOT);
    BigInteger bits = new BigInteger(1, hmac(key));
    Matcher day = DAY.matcher(real);
    if (MAIL.matcher(key).matches()) {
      return MadeUpWords.syllables(bits, SYLLABLES) + "@" + HOST;
    }
    if (IPV4.matcher(key).matches()) {
      int low = bits.intValue();
      return "198." + (18 + (low >>> 16 & 1)) + "." + (low >>> 8 & 0xff) + "." + (low & 0xff);
    }
    if (IPV6.matcher(key).matches()) {
      long low = bits.longValue();
      return String.format(
          Locale.ROOT,
          "2001:db8::%x:%x:%x:%x",
          low >>> 48,
          low >>> 32 & 0xffff,
          low >>> 16 & 0xffff,
          low & 0xffff);
    }
    if (URL.matcher(key).matches()) {
      return "https://" + HOST + "/" + MadeUpWords.syllables(bits, SYLLABLES);
    }
    if (day.matches()) {
      int low = bits.intValue();
      return String.format(
          Locale.ROOT,
          "%s-%02d-%02d%s",
          day.group(1),
          1 + (low & 0xff) % 12,
          1 + (low >>> 8 & 0xff) % 28,
          day.group(2));
    }
    if (DIGITS.matcher(key).matches()) {
      return digits(real);
    }
    if (SERIALIZED.matcher(key).matches()) {
      return "a:0:{}";
    }
    return new MadeUpWords().words(real, bits);
  }

  /** A number in the same form: a first digit that is none of 0 stays none. */
  private String digits(String real) {
    BigInteger bits = new BigInteger(1, hmac(real.replaceAll("\\D", "")));
    StringBuilder made = new StringBuilder();
    for (char sign : real.toCharArray()) {
      boolean digit = sign >= '0' && sign <= '9';
      if (digit && sign != '0' && made.indexOf("0") < 0 && made.length() == 0) {
        made.append(1 + bits.mod(BigInteger.valueOf(9)).intValue());
        bits = bits.divide(BigInteger.valueOf(9));
      } else if (digit) {
        made.append(bits.mod(BigInteger.TEN));
        bits = bits.divide(BigInteger.TEN);
      } else {
        made.append(sign);
      }
    }
    return made.toString();
  }

  /** A column that is too narrow for it gets as much as it takes. */
  private static String cut(String made, Column column) {
    Matcher length = LENGTH.matcher(column.type());
    int longest = length.matches() ? Integer.parseInt(length.group(1)) : Integer.MAX_VALUE;
    if (made.length() <= longest) {
      return made;
    }
    int end = made.indexOf('@');
    int local = longest - HOST.length() - 1;
    return end > 0 && local > 0
        ? made.substring(0, local) + "@" + HOST
        : made.substring(0, longest);
  }

  private byte[] hmac(String real) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(secret, "HmacSHA256"));
      return mac.doFinal(real.getBytes(StandardCharsets.UTF_8));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java has HMAC with SHA-256", e);
    }
  }
}
