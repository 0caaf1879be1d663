package weftex.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import weftex.core.address.Address;
import weftex.core.address.AddressMap;
import weftex.core.address.CopyAddress;
import weftex.core.merge.ValueMerger;
import weftex.core.model.PlaceRule;
import weftex.core.model.SiteModel;
import weftex.core.reference.NumberPlaces;
import weftex.core.row.Value;

/**
 * Mutated values through every reader: none may throw, hang, or change what nobody asked to change.
 * {@code bench/fuzz} runs many more of them.
 */
class MutatedValuesTest {
  private static final int QUICK = 10_000;
  private static final int FULL = 30_000;

  private static final List<String> SEEDS =
      List.of(
          "a:3:{s:4:\"logo\";i:12;s:5:\"menus\";a:2:{i:0;i:9;s:3:\"top\";s:2:\"12\";}s:1:\"u\";s:36:\"https://staging.skerrow.example/fares\";}",
          "O:7:\"Harbour\":2:{s:4:\"name\";s:4:\"Bræ\";s:7:\"\0*\0deep\";d:4.5;}",
          "a:2:{i:0;s:25:\"a:1:{s:1:\"x\";s:3:\"12,9\";}\";i:1;R:2;}",
          "C:11:\"ArrayObject\":21:{x:i:0;a:0:{};m:a:0:{}}",
          "{\"a\": [1, 2.50, \"\\u00e9\\/\"], \"url\":\"https:\\/\\/staging.skerrow.example\\/a\", \"n\": {\"id\": 12}}",
          "{\"s\":\"a:1:{s:1:\\\"u\\\";s:32:\\\"https:\\/\\/staging.skerrow.example\\/\\\";}\"}",
          "<!-- wp:image {\"id\":12,\"url\":\"https://staging.skerrow.example/a.jpg\"} --><img class=\"wp-image-12\"><!-- /wp:image -->",
          "[gallery ids=\"9,12\"] <a href=\"https://staging.skerrow.example/?p=12&amp;x=1\">one two three four five six seven</a>",
          "?u=https%3A%2F%2Fstaging.skerrow.example%2Fa&v=https%253A%252F%252Fstaging.skerrow.example");

  private static final List<String> TOKENS =
      List.of(
          "\"",
          "\\",
          "{",
          "}",
          ";",
          ":",
          "12",
          "s:",
          "a:1:{",
          "i:9;",
          "//",
          "\\/",
          "%2F",
          "&#47;",
          "<!-- wp:image {",
          "-->",
          "staging.skerrow.example",
          "https://",
          "\0",
          "ø",
          "9999999999",
          "-",
          "\\u00",
          "N;",
          "[",
          "]",
          ",");

  private final AddressMap there =
      map("https://staging.skerrow.example", "https://skerrow.example");
  private final AddressMap back = map("https://skerrow.example", "https://staging.skerrow.example");
  private final NumberPlaces places;
  private final ValueMerger merger = new ValueMerger(List.of("*"), List.of());

  MutatedValuesTest() throws Exception {
    List<PlaceRule> rules =
        new java.util.ArrayList<>(SiteModel.readBuiltIn("wordpress").texts().markup());
    rules.add(PlaceRule.at("posts", "**", false, null));
    places = new NumberPlaces(rules, Format.AUTO, Set.of("skerrow.example"), true);
  }

  private static AddressMap map(String from, String to) {
    return AddressMap.of(copy(from), copy(to), List.of(), false);
  }

  private static CopyAddress copy(String address) {
    return new CopyAddress(Optional.of(Address.parse(address)), false, Optional.empty());
  }

  @Test
  @Timeout(value = 4, unit = TimeUnit.HOURS)
  void noReaderThrowsOrChangesWhatNobodyAskedFor() {
    mutate(Integer.getInteger("weftex.mutations", QUICK));
  }

  @Test
  @Tag("full")
  void norInMoreOfThem() {
    mutate(FULL);
  }

  private void mutate(int count) {
    long seed = Long.getLong("weftex.seed", 20261125L);
    Random random = new Random(seed);
    int structured = 0;
    int mapped = 0;
    for (int i = 0; i < count; i++) {
      byte[] before = bytes(random);
      byte[] value = mutated(before, random);
      try {
        structured += check(value) ? 1 : 0;
        mapped += checkAddresses(value) ? 1 : 0;
        checkNumbers(value);
        checkMerge(before, value);
      } catch (RuntimeException | Error e) {
        throw new AssertionError(
            "seed " + seed + ", value " + i + ": " + new String(value, StandardCharsets.ISO_8859_1),
            e);
      }
    }
    // Mutations that leave nothing to read would prove nothing.
    assertThat(structured).isGreaterThan(count / 50);
    assertThat(mapped).isGreaterThan(count / 50);
  }

  private static byte[] bytes(Random random) {
    return SEEDS.get(random.nextInt(SEEDS.size())).getBytes(StandardCharsets.UTF_8);
  }

  private static byte[] mutated(byte[] value, Random random) {
    byte[] bytes = value;
    for (int i = random.nextInt(4); i >= 0; i--) {
      int at = random.nextInt(bytes.length + 1);
      int to = Math.min(bytes.length, at + random.nextInt(6));
      byte[] token = TOKENS.get(random.nextInt(TOKENS.size())).getBytes(StandardCharsets.UTF_8);
      bytes =
          switch (random.nextInt(5)) {
            case 0 -> joined(bytes, at, token, to);
            case 1 -> joined(bytes, at, new byte[0], to);
            case 2 -> joined(bytes, at, token, at);
            case 3 -> joined(bytes, at, Arrays.copyOfRange(bytes, at, to), at);
            default -> {
              byte[] copy = bytes.clone();
              if (at < copy.length) {
                copy[at] = (byte) random.nextInt(256);
              }
              yield copy;
            }
          };
    }
    return bytes;
  }

  private static byte[] joined(byte[] bytes, int from, byte[] middle, int to) {
    byte[] joined = Arrays.copyOf(bytes, from + middle.length + bytes.length - to);
    System.arraycopy(middle, 0, joined, from, middle.length);
    System.arraycopy(bytes, to, joined, from + middle.length, bytes.length - to);
    return joined;
  }

  /** Every text and number is written anew as it is; the whole must be the same bytes. */
  private static boolean check(byte[] value) {
    Optional<Weaver> again =
        Rewriting.rewrite(
            value,
            new Rewriting.Visitor() {
              @Override
              public boolean mayTouch(byte[] bytes) {
                return true;
              }

              @Override
              public Optional<Weaver> text(Place place, byte[] text) {
                place.path();
                return Optional.of(Weaver.of(text));
              }

              @Override
              public Optional<Weaver> number(Place place, byte[] digits) {
                return Optional.of(Weaver.of(digits));
              }
            });
    again.ifPresent(woven -> assertThat(woven.bytes()).isEqualTo(value));
    return Structure.detect(value).isPresent();
  }

  private boolean checkAddresses(byte[] value) {
    Value text = new Value.Text(value);
    Value mapped = there.map(text, Format.AUTO, form -> {});
    String written = new String(value, StandardCharsets.ISO_8859_1);
    boolean hasTarget =
        written
            .toLowerCase(java.util.Locale.ROOT)
            .replace("staging.skerrow", "")
            .contains("skerrow.example");
    if (mapped != text && !hasTarget) {
      boolean mixedCase = !written.equals(written.toLowerCase(java.util.Locale.ROOT));
      Value again = back.map(mapped, Format.AUTO, form -> {});
      // The other scheme of an address becomes the copy's own.
      boolean otherScheme = Pattern.compile("http(?!s)").matcher(written).find();
      if (!mixedCase && !otherScheme) {
        assertThat(again).isEqualTo(text);
      }
      if (!mixedCase) {
        assertThat(there.map(again, Format.AUTO, form -> {})).isEqualTo(mapped);
      }
    }
    return mapped != text;
  }

  private void checkNumbers(byte[] value) {
    assertThat(places.rewrite(value, (table, number) -> Optional.empty())).isEmpty();
    places
        .rewrite(
            value,
            (table, number) ->
                number.bitLength() > 40
                    ? Optional.empty()
                    : Optional.of(Weaver.of(number.toString().getBytes(StandardCharsets.US_ASCII))))
        .ifPresent(
            woven -> {
              boolean zeros =
                  new String(value, StandardCharsets.ISO_8859_1).matches("(?s).*\\D0\\d.*|0\\d.*");
              if (!zeros) {
                assertThat(woven.bytes()).isEqualTo(value);
              }
            });
  }

  private void checkMerge(byte[] base, byte[] value) {
    merger
        .merge(base, base, value)
        .ifPresent(outcome -> assertThat(outcome.ifSource()).isEqualTo(value));
    merger
        .merge(base, value, value)
        .ifPresent(outcome -> assertThat(outcome.ifSource()).isEqualTo(value));
    merger.merge(base, value, bytes(new Random(value.length)));
  }
}
