package weftex.core.address;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.row.Value;
import weftex.core.value.Format;

class AddressMapTest {
  private static final AddressMap MAP =
      map("https://staging.skerrow.example", "https://skerrow.example");

  private static AddressMap map(String from, String to) {
    return AddressMap.of(copy(from, false), copy(to, false), List.of(), false);
  }

  private static CopyAddress copy(String address, boolean twin) {
    return new CopyAddress(Optional.of(Address.parse(address)), twin, Optional.empty());
  }

  private static String mapped(AddressMap map, String text) {
    return map.map(Value.text(text), Format.AUTO, form -> {}).display();
  }

  private static List<Form> forms(AddressMap map, String text) {
    List<Form> forms = new ArrayList<>();
    map.map(Value.text(text), Format.AUTO, forms::add);
    return forms;
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          PLAIN         | see https://staging.skerrow.example/fares.   | see https://skerrow.example/fares.
          PLAIN         | https://staging.skerrow.example              | https://skerrow.example
          PLAIN         | https://staging.skerrow.example/             | https://skerrow.example/
          PLAIN         | “https://staging.skerrow.example”, she said  | “https://skerrow.example”, she said
          PLAIN         | go to https://staging.skerrow.example. Then  | go to https://skerrow.example. Then
          PLAIN         | HTTPS://STAGING.SKERROW.EXAMPLE/A            | https://SKERROW.EXAMPLE/A
          NO_SCHEME     | <img src="//staging.skerrow.example/a.jpg">  | <img src="//skerrow.example/a.jpg">
          OTHER_SCHEME  | http://staging.skerrow.example/a             | https://skerrow.example/a
          JSON          | "https:\\/\\/staging.skerrow.example\\/a"    | "https:\\/\\/skerrow.example\\/a"
          JSON          | https:\\\\\\/\\\\\\/staging.skerrow.example\\\\\\/a | https:\\\\\\/\\\\\\/skerrow.example\\\\\\/a
          PERCENT       | ?u=https%3A%2F%2Fstaging.skerrow.example%2Fa | ?u=https%3A%2F%2Fskerrow.example%2Fa
          PERCENT       | ?u=https%3a%2f%2fstaging.skerrow.example     | ?u=https%3a%2f%2fskerrow.example
          PERCENT       | u%3Dhttps%3A%2F%2Fstaging.skerrow.example    | u%3Dhttps%3A%2F%2Fskerrow.example
          PERCENT_TWICE | https%253A%252F%252Fstaging.skerrow.example%252F | https%253A%252F%252Fskerrow.example%252F
          HTML          | https:&#47;&#47;staging.skerrow.example&#47; | https:&#47;&#47;skerrow.example&#47;
          HTML          | https&#58;&#x2F;&#x2F;staging.skerrow.example | https&#58;&#x2F;&#x2F;skerrow.example
          """)
  void everyFormIsMappedAndNamed(Form form, String text, String expected) {
    assertThat(mapped(MAP, text)).isEqualTo(expected);
    assertThat(forms(MAP, text)).containsExactly(form);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "https://staging.skerrow.example.org/",
        "https://staging.skerrow.example-old/",
        "https://staging.skerrow.example:80801/",
        "https://staging.skerrow.example@elsewhere.example/",
        "https://notstaging.skerrow.example/",
        "https://www.staging.skerrow.example/",
        "https://elsewhere.example/staging.skerrow.example",
        "https://elsewhere.example//staging.skerrow.example",
        "ftp://staging.skerrow.example/",
        "xhttps://staging.skerrow.example/",
        "write to desk@staging.skerrow.example",
        "the host staging.skerrow.example alone",
        "https://staging.skerrow.exampleø/",
      })
  void whatMerelyBeginsAlikeStays(String text) {
    assertThat(mapped(MAP, text)).isEqualTo(text);
  }

  @Test
  void aHostAloneIsMappedOnlyIfAskedFor() {
    AddressMap asked =
        AddressMap.of(
            copy("https://staging.skerrow.example", false),
            copy("https://skerrow.example", false),
            List.of(),
            true);
    assertThat(mapped(asked, "desk@staging.skerrow.example, or staging.skerrow.example."))
        .isEqualTo("desk@skerrow.example, or skerrow.example.");
    assertThat(mapped(asked, "notstaging.skerrow.example staging.skerrow.example.org"))
        .isEqualTo("notstaging.skerrow.example staging.skerrow.example.org");
  }

  @Test
  void portsAndFoldersBelongToTheAddress() {
    AddressMap map = map("http://localhost:8080/skerrow", "https://skerrow.example");
    assertThat(
            mapped(map, "http://localhost:8080/skerrow/fares http:\\/\\/localhost:8080\\/skerrow"))
        .isEqualTo("https://skerrow.example/fares https:\\/\\/skerrow.example");
    assertThat(mapped(map, "http%3A%2F%2Flocalhost%3A8080%2Fskerrow%2Fa"))
        .isEqualTo("https%3A%2F%2Fskerrow.example%2Fa");
    String others =
        "http://localhost:8080/skerrow-old http://localhost:80801/skerrow http://localhost/skerrow";
    assertThat(mapped(map, others)).isEqualTo(others);
    AddressMap back = map("https://skerrow.example", "http://localhost:8080/skerrow");
    assertThat(mapped(back, "https:\\/\\/skerrow.example\\/fares"))
        .isEqualTo("http:\\/\\/localhost:8080\\/skerrow\\/fares");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "<a href=\"~/fares\"> <img src='~/a.jpg'> url(~/b.png) url(\"~/c.png\")",
        "{\"html\":\"<a href=\\\"~\\/fares\\\">\"}",
        "<a href=\"~/\">",
      })
  void aLinkFromTheRootGoesIntoTheOtherFolderAndBack(String text) {
    AddressMap out = map("https://skerrow.example/test", "https://skerrow.example");
    AddressMap in = map("https://skerrow.example", "https://skerrow.example/test");
    String slash = text.contains("\\/") ? "\\/test" : "/test";
    assertThat(mapped(out, text.replace("~", slash))).isEqualTo(text.replace("~", ""));
    assertThat(mapped(in, text.replace("~", ""))).isEqualTo(text.replace("~", slash));
    assertThat(mapped(in, text.replace("~", slash))).isEqualTo(text.replace("~", slash));
    assertThat(forms(out, text.replace("~", slash))).containsOnly(Form.ROOT);
  }

  @Test
  void aLinkFromTheRootIsOneOnlyAsAWholeFirstPartOfAPath() {
    AddressMap out = map("https://skerrow.example/test", "https://skerrow.example");
    assertThat(mapped(out, "/test")).isEqualTo("/");
    assertThat(mapped(out, "/test/fares and ?to=%2Ftest%2Ffares"))
        .isEqualTo("/fares and ?to=%2Ffares");
    String others =
        "/tests /old/test x/test ./test https://elsewhere.example/test //test #/test {a}/test";
    assertThat(mapped(out, others)).isEqualTo(others);
    AddressMap in = map("https://skerrow.example", "https://skerrow.example/test");
    String alone = "/fares href=/fares href=\"//cdn.example/a\" src=\"a/b\" ?src=/a";
    assertThat(mapped(in, alone)).isEqualTo(alone);
    AddressMap across = map("http://localhost/One", "https://skerrow.example/two/three");
    assertThat(mapped(across, "href='/One/a' /One")).isEqualTo("href='/two/three/a' /two/three");
  }

  @Test
  void anAddressWithoutItsSchemeIsKnownByItsPortOrItsFolder() {
    AddressMap map = map("http://localhost:8080/skerrow", "https://skerrow.example");
    assertThat(mapped(map, "at localhost:8080/skerrow/fares, localhost:8080\\/skerrow"))
        .isEqualTo("at skerrow.example/fares, skerrow.example");
    String others =
        "localhost:8080 localhost/skerrow localhost:8080/skerrows xlocalhost:8080/skerrow /localhost:8080/skerrow";
    assertThat(mapped(map, others)).isEqualTo(others);
    AddressMap ports = map("http://localhost:8080", "http://skerrow.example:81/a");
    assertThat(mapped(ports, "localhost:8080, localhost:8080/b"))
        .isEqualTo("skerrow.example:81/a, skerrow.example:81/a/b");
  }

  @Test
  void theTwinWithWwwIsTheSameCopyIfSaidSo() {
    AddressMap both =
        AddressMap.of(
            copy("https://www.staging.example", true),
            copy("https://skerrow.example", true),
            List.of(),
            false);
    assertThat(mapped(both, "https://www.staging.example/a https://staging.example/b"))
        .isEqualTo("https://www.skerrow.example/a https://skerrow.example/b");
  }

  @Test
  void internationalHostsAreKnownInBothSpellings() {
    AddressMap map = map("https://fähre.example", "https://überfahrt.example");
    assertThat(
            mapped(
                map,
                "https://fähre.example https://xn--fhre-loa.example https://f%C3%A4hre.example"))
        .isEqualTo(
            "https://überfahrt.example https://xn--berfahrt-55a.example https://%C3%BCberfahrt.example");
    assertThat(mapped(map, "\"https:\\/\\/f\\u00e4hre.example\\/a\""))
        .isEqualTo("\"https:\\/\\/\\u00fcberfahrt.example\\/a\"");
  }

  @Test
  void lengthsOfSerialisedTextsFollowAtAnyDepth() {
    String inner = "a:1:{s:1:\"u\";s:34:\"https://staging.skerrow.example/ø\";}";
    String outer =
        "a:2:{i:0;s:"
            + inner.getBytes(StandardCharsets.UTF_8).length
            + ":\""
            + inner
            + "\";i:1;s:2:\"no\";}";
    assertThat(mapped(MAP, inner)).isEqualTo("a:1:{s:1:\"u\";s:26:\"https://skerrow.example/ø\";}");
    String mappedInner = mapped(MAP, inner);
    assertThat(mapped(MAP, outer))
        .isEqualTo(
            "a:2:{i:0;s:"
                + mappedInner.getBytes(StandardCharsets.UTF_8).length
                + ":\""
                + mappedInner
                + "\";i:1;s:2:\"no\";}");
  }

  @Test
  void serialisedInJsonIsFollowedToo() {
    String text = "{\"a\": \"s:32:\\\"https:\\/\\/staging.skerrow.example\\/\\\";\"}";
    assertThat(mapped(MAP, text))
        .isEqualTo("{\"a\": \"s:24:\\\"https:\\/\\/skerrow.example\\/\\\";\"}");
  }

  @Test
  void aMalformedSerialisedValueIsLeft() {
    String text = "a:1:{s:1:\"u\";s:99:\"https://staging.skerrow.example/\";}";
    assertThat(mapped(MAP, text)).isEqualTo(text);
  }

  @Test
  void foldersAndPairsAreMappedInEveryForm() {
    CopyAddress staging =
        new CopyAddress(
            Optional.of(Address.parse("https://staging.skerrow.example")),
            false,
            Optional.of("/srv/staging/web/"));
    CopyAddress live =
        new CopyAddress(
            Optional.of(Address.parse("https://skerrow.example")), false, Optional.of("/srv/live"));
    AddressMap map =
        AddressMap.of(
            staging,
            live,
            List.of(new AddressMap.Pair("cdn-test.example/box", "cdn.example/box")),
            false);
    assertThat(mapped(map, "/srv/staging/web/a \\/srv\\/staging\\/web %2Fsrv%2Fstaging%2Fweb"))
        .isEqualTo("/srv/live/a \\/srv\\/live %2Fsrv%2Flive");
    String others = "/srv/staging/website /old/srv/staging/web cdn-test.example/boxes";
    assertThat(mapped(map, others)).isEqualTo(others);
    assertThat(mapped(map, "https:\\/\\/cdn-test.example\\/box\\/1"))
        .isEqualTo("https:\\/\\/cdn.example\\/box\\/1");
  }

  @Test
  void aBookMapsBothWaysAndSkipsPairsThatAreAlike() {
    AddressBook book =
        new AddressBook(
            Map.of(
                "staging", copy("https://staging.skerrow.example", false),
                "live", copy("https://skerrow.example", false)),
            List.of(Map.of("staging", "same", "live", "same")),
            false);
    assertThat(mapped(book.between("live", "staging"), "https://skerrow.example/a"))
        .isEqualTo("https://staging.skerrow.example/a");
    assertThat(book.between("live", "live").isNothing()).isTrue();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"skerrow.example", "ftp://skerrow.example", "https://", "https://a:99999"})
  void whatIsNoAddressIsRefusedWithASentence(String text) {
    assertThatThrownBy(() -> Address.parse(text)).isInstanceOf(IllegalArgumentException.class);
  }
}
