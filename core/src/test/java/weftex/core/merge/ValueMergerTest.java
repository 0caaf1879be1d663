package weftex.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.value.Structure;

class ValueMergerTest {

  private static String merged(String base, String source, String target, String... sets) {
    Optional<ValueMerger.Outcome> outcome =
        new ValueMerger(List.of(sets), List.of()).merge(utf8(base), utf8(source), utf8(target));
    return outcome
        .map(o -> text(o.ifSource()) + (o.clashes().isEmpty() ? "" : " !" + o.clashes()))
        .orElse("one thing");
  }

  private static byte[] utf8(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  private static String text(byte[] bytes) {
    return new String(bytes, StandardCharsets.UTF_8);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          {"a":1,"b":2} | {"a":9,"b":2}       | {"a":1,"b":8}    | {"a":9,"b":8}
          {"a":1,"b":2} | {"a":1}             | {"a":7,"b":2}    | {"a":7}
          {"a":1}       | {"a":1,"s":{"x":1}} | {"a":1,"t":2}    | {"a":1,"t":2,"s":{"x":1}}
          {"a":1}       | {"a":2}             | {"a":3}          | {"a":2} ![a]
          {"a":{"x":1}} | {"a":{"x":2}}       | {"a":{"x":1,"y":3}} | {"a":{"x":2,"y":3}}
          {"a":1,"b":1} | {"b":1}             | {"a":2,"b":1}    | {"b":1} ![a]
          [1,2,3]       | [0,1,2,3]           | [1,2,3,4]        | [0,1,2,3,4]
          {"a": "ü"}    | {"a": "\\u00fc","b":1} | {"a": "ü", "c": 2} | {"a": "ü", "c": 2, "b": 1}
          """)
  void jsonIsMergedMemberByMember(String base, String source, String target, String expected) {
    assertThat(merged(base, source, target)).isEqualTo(expected);
  }

  @Test
  void serialisedSettingsAreMergedAndCounted() {
    assertThat(
            merged(
                "a:2:{s:4:\"logo\";i:5;s:5:\"width\";s:4:\"wide\";}",
                "a:3:{s:4:\"logo\";i:5;s:5:\"width\";s:6:\"narrow\";s:3:\"new\";b:1;}",
                "a:2:{s:4:\"logo\";i:8;s:5:\"width\";s:4:\"wide\";}"))
        .isEqualTo("a:3:{s:4:\"logo\";i:8;s:5:\"width\";s:6:\"narrow\";s:3:\"new\";b:1;}");
  }

  @Test
  void aListOfExtensionsIsASetWhereTheModelSaysSo() {
    String base = "a:2:{i:0;s:3:\"map\";i:1;s:4:\"form\";}";
    String source = "a:3:{i:0;s:3:\"map\";i:1;s:4:\"form\";i:2;s:4:\"shop\";}";
    String target = "a:2:{i:0;s:5:\"cache\";i:1;s:3:\"map\";}";
    assertThat(merged(base, source, target, ""))
        .isEqualTo("a:3:{i:0;s:5:\"cache\";i:1;s:3:\"map\";i:2;s:4:\"shop\";}");
  }

  @Test
  void membersOfTheSameListEntryAreMergedToo() {
    assertThat(
            merged(
                "[{\"t\":\"a\",\"n\":1},{\"t\":\"b\",\"n\":1}]",
                "[{\"t\":\"A\",\"n\":1},{\"t\":\"b\",\"n\":1}]",
                "[{\"t\":\"a\",\"n\":2},{\"t\":\"b\",\"n\":1}]"))
        .isEqualTo("[{\"t\":\"A\",\"n\":2},{\"t\":\"b\",\"n\":1}]");
  }

  private static List<String> lists() {
    List<String> lists = new ArrayList<>(List.of(""));
    for (int from = 0, length = 1; length <= 3; length++) {
      int to = lists.size();
      for (String shorter : List.copyOf(lists.subList(from, to))) {
        for (String item : List.of("1", "2", "3")) {
          lists.add(shorter.isEmpty() ? item : shorter + "," + item);
        }
      }
      from = to;
    }
    return lists;
  }

  @Test
  void ofWhatIsOneThingNothingIsTakenWithoutTheRest() {
    byte[] base = utf8("{\"size\":{\"w\":1,\"h\":1},\"alt\":\"a\"}");
    byte[] source = utf8("{\"size\":{\"w\":2,\"h\":1},\"alt\":\"a\",\"new\":1}");
    byte[] target = utf8("{\"size\":{\"w\":1,\"h\":3},\"alt\":\"b\"}");
    ValueMerger.Outcome member =
        new ValueMerger(List.of(), List.of("si*")).merge(base, source, target).orElseThrow();
    assertThat(member.clashes()).containsExactly("size");
    assertThat(text(member.ifSource()))
        .isEqualTo("{\"size\":{\"w\":2,\"h\":1},\"alt\":\"b\",\"new\":1}");
    assertThat(text(member.ifTarget()))
        .isEqualTo("{\"size\":{\"w\":1,\"h\":3},\"alt\":\"b\",\"new\":1}");
    ValueMerger whole = new ValueMerger(List.of(), List.of(""));
    assertThat(whole.merge(base, source, target)).isEmpty();
    assertThat(whole.mergeAdded(source, target)).isEmpty();
    // Where one side alone changed it, there is nothing to ask.
    assertThat(
            new ValueMerger(List.of(), List.of("size"))
                .merge(
                    base,
                    utf8("{\"size\":{\"w\":1,\"h\":1},\"alt\":\"c\"}"),
                    utf8("{\"size\":{\"w\":5,\"h\":5},\"alt\":\"a\"}"))
                .map(o -> text(o.ifSource()) + o.clashes()))
        .contains("{\"size\":{\"w\":5,\"h\":5},\"alt\":\"c\"}[]");
  }

  /** The engine counts its range of an empty base below zero, which once ended a comparison. */
  @Test
  void listsThatBothSidesAddedAreMergedOrNamed() {
    ValueMerger merger = new ValueMerger(List.of(), List.of());
    for (String one : lists()) {
      for (String other : lists()) {
        String source = "{\"pages\":[" + one + "]}";
        String target = "{\"pages\":[" + other + "]}";
        ValueMerger.Outcome outcome = merger.mergeAdded(utf8(source), utf8(target)).orElseThrow();
        assertThat(text(outcome.ifSource())).startsWith("{\"pages\":[").endsWith("]}");
        if (one.equals(other)) {
          assertThat(outcome.clashes()).isEmpty();
          assertThat(text(outcome.ifSource())).isEqualTo(source);
        } else if (!outcome.clashes().isEmpty()) {
          assertThat(outcome.clashes()).containsExactly("pages");
          assertThat(text(outcome.ifSource())).isEqualTo(source);
          assertThat(text(outcome.ifTarget())).isEqualTo(target);
        } else {
          assertThat(outcome.ifSource()).isEqualTo(outcome.ifTarget());
        }
      }
    }
  }

  @Test
  void serialisedWithinSerialisedIsMergedInside() {
    String base = nested("a:2:{s:1:\"x\";i:1;s:1:\"y\";i:1;}");
    String source = nested("a:2:{s:1:\"x\";i:2;s:1:\"y\";i:1;}");
    String target = nested("a:2:{s:1:\"x\";i:1;s:1:\"y\";i:30;}");
    assertThat(merged(base, source, target))
        .isEqualTo(nested("a:2:{s:1:\"x\";i:2;s:1:\"y\";i:30;}"));
  }

  private static String nested(String inner) {
    return "a:1:{s:4:\"data\";s:" + inner.length() + ":\"" + inner + "\";}";
  }

  @Test
  void placesThatAreCountedFromTheStartAreNotMoved() {
    String base = "a:2:{i:0;s:1:\"x\";i:1;R:2;}";
    assertThat(merged(base, "a:2:{i:0;s:1:\"y\";i:1;R:2;}", "a:3:{i:0;s:1:\"x\";i:1;R:2;i:2;i:1;}"))
        .isEqualTo("one thing");
  }

  @Test
  void anInsertedBlockDoesNotClashWithAnEditFurtherDown() {
    String base =
        "<!-- wp:p --><p>The first of all paragraphs.</p><!-- /wp:p --><!-- wp:p --><p>The second one here.</p><!-- /wp:p -->";
    String source =
        "<!-- wp:p --><p>The first of all paragraphs.</p><!-- /wp:p --><!-- wp:image {\"id\":4} --><img><!-- /wp:image --><!-- wp:p --><p>The second one here.</p><!-- /wp:p -->";
    String target =
        "<!-- wp:p --><p>The first of all paragraphs.</p><!-- /wp:p --><!-- wp:p --><p>The second one there.</p><!-- /wp:p -->";
    assertThat(merged(base, source, target)).isEqualTo(source.replace("one here", "one there"));
  }

  @Test
  void wordsOfOneParagraphAreMergedAndOnlyTheClashIsNamed() {
    String base = "<p>Children under six sail free on all the boats. Dogs pay half.</p>";
    String source = "<p>Children under seven sail free on all the boats. Dogs pay half.</p>";
    String target = "<p>Children under six sail free on all the boats. Dogs pay nothing.</p>";
    assertThat(merged(base, source, target))
        .isEqualTo("<p>Children under seven sail free on all the boats. Dogs pay nothing.</p>");
    String clashing = "<p>Children under eight sail free on all the boats. Dogs pay nothing.</p>";
    assertThat(merged(base, source, clashing))
        .isEqualTo(
            "<p>Children under seven sail free on all the boats. Dogs pay nothing.</p> ![six]");
  }

  @Test
  void aTitleOrADateIsOneThing() {
    assertThat(merged("Fares", "Fares and cards", "Fares 2027")).isEqualTo("one thing");
    assertThat(merged("2026-11-01 10:00", "2026-11-02 10:00", "2026-11-01 11:00"))
        .isEqualTo("one thing");
  }

  @Property
  void noSignOfAProseIsLost(@ForAll("prose") String base, @ForAll("prose") String other) {
    assertThat(merged(base, base, other)).isEqualTo(other);
    assertThat(merged(base, other, base)).isEqualTo(other);
    assertThat(merged(base, other, other)).isEqualTo(other);
  }

  @Provide
  Arbitrary<String> prose() {
    return Arbitraries.of(
            "one ",
            "two\n",
            "<p>",
            "</p>",
            "<!-- wp:x -->",
            "<",
            "-->",
            "ø ",
            "a.b ",
            "\r\n",
            "<br/>")
        .list()
        .ofMaxSize(12)
        .map(pieces -> "a b c d e f g h " + String.join("", pieces));
  }

  @Provide
  Arbitrary<String> json() {
    Arbitrary<String> key = Arbitraries.of("a", "b", "c", "d");
    Arbitrary<String> leaf = Arbitraries.of("1", "2", "\"x\"", "null", "[1,2]", "[2,1,3]");
    Arbitrary<String> inner = Arbitraries.maps(key, leaf).ofMaxSize(3).map(ValueMergerTest::object);
    return Arbitraries.maps(key, Arbitraries.oneOf(leaf, inner))
        .ofMaxSize(4)
        .map(ValueMergerTest::object);
  }

  private static String object(java.util.Map<String, String> members) {
    List<String> written = new ArrayList<>();
    new java.util.TreeMap<>(members).forEach((k, v) -> written.add("\"" + k + "\":" + v));
    return "{" + String.join(",", written) + "}";
  }

  @Property
  void aSideThatChangedNothingLosesNothing(
      @ForAll("json") String base, @ForAll("json") String other) {
    assertThat(merged(base, base, other)).isEqualTo(other);
    assertThat(canonical(merged(base, other, base))).isEqualTo(canonical(other));
    assertThat(merged(base, other, other)).isEqualTo(other);
  }

  @Property
  void theResultParsesAndEachSideGetsItsChangesOrIsNamed(
      @ForAll("json") String base, @ForAll("json") String source, @ForAll("json") String target) {
    ValueMerger.Outcome outcome =
        new ValueMerger(List.of(), List.of())
            .merge(utf8(base), utf8(source), utf8(target))
            .orElseThrow();
    assertThat(Structure.detect(outcome.ifSource())).isPresent();
    assertThat(Structure.detect(outcome.ifTarget())).isPresent();
    ValueMerger.Outcome mirrored =
        new ValueMerger(List.of(), List.of())
            .merge(utf8(base), utf8(target), utf8(source))
            .orElseThrow();
    assertThat(mirrored.clashes()).hasSameSizeAs(outcome.clashes());
    if (outcome.clashes().isEmpty() && !base.contains("[")) {
      assertThat(canonical(text(mirrored.ifSource())))
          .isEqualTo(canonical(text(outcome.ifSource())));
    }
  }

  private static String canonical(String json) {
    Structure structure = Structure.detect(utf8(json)).orElseThrow();
    return structure.canonical(structure.root());
  }

  /** A time was put together of two, and the engine's base of a clash was taken at its word. */
  @Test
  void ofTwoEditedWordsNoThirdIsMade() {
    String base =
        "<p>The first boat leaves Brae at 07:30 every day. Tickets are sold on board, and at the desk.</p>";
    String source = base.replace("07:30", "06:45").replace("on board", "on the pier");
    String target = base.replace("07:30", "07:10").replace("on board", "in the shop");
    ValueMerger.Outcome outcome =
        new ValueMerger(List.of(), List.of())
            .merge(utf8(base), utf8(source), utf8(target))
            .orElseThrow();
    assertThat(text(outcome.ifSource())).isEqualTo(source);
    assertThat(text(outcome.ifTarget())).isEqualTo(target);
    assertThat(outcome.clashes()).containsExactly("07:30", "on board,");
  }

  private static String block(String number, String source) {
    return "<p>Before.</p>\n\n<!-- block:image {\"id\":"
        + number
        + "} -->\n<figure><img src=\""
        + source
        + "\" class=\"image-"
        + number
        + "\"/></figure>\n<!-- /block:image -->\n\n<p>After.</p>";
  }

  /** A block was put together of one copy's number and the other copy's picture. */
  @Test
  void whatABlockSaysAndWhatStandsInItAreOfOneSide() {
    String base = block("6", "/pier.jpg");
    String source = block("5", "/slip.jpg").replace("Before.", "Long before.");
    String target = block("6", "https://skerrow.example/pier.jpg").replace("After", "Then");
    ValueMerger.Outcome outcome =
        new ValueMerger(List.of(), List.of())
            .merge(utf8(base), utf8(source), utf8(target))
            .orElseThrow();
    assertThat(text(outcome.ifSource())).isEqualTo(source.replace("After", "Then"));
    assertThat(text(outcome.ifTarget())).isEqualTo(target.replace("Before.", "Long before."));
    ValueMerger.Outcome mirrored =
        new ValueMerger(List.of(), List.of())
            .merge(utf8(base), utf8(target), utf8(source))
            .orElseThrow();
    assertThat(text(mirrored.ifSource())).isEqualTo(text(outcome.ifTarget()));
    assertThat(text(mirrored.ifTarget())).isEqualTo(text(outcome.ifSource()));
    // Both changed the number alike, and the picture each in its own way.
    String other = block("5", "/ferry.jpg");
    outcome =
        new ValueMerger(List.of(), List.of())
            .merge(utf8(base), utf8(source), utf8(other))
            .orElseThrow();
    assertThat(text(outcome.ifTarget())).isEqualTo(other.replace("Before.", "Long before."));
    assertThat(text(outcome.ifSource())).isEqualTo(source);
  }

  /** Whatever both sides do to the words of a text, nothing is lost, invented or refused. */
  @Property(tries = 500)
  void wordsComeFromSomewhere(
      @ForAll("wordings") List<String> base,
      @ForAll("wordings") List<String> source,
      @ForAll("wordings") List<String> target) {
    ValueMerger merger = new ValueMerger(List.of(), List.of());
    String b = String.join(" ", base);
    String s = String.join(" ", source);
    String t = String.join(" ", target);
    Optional<ValueMerger.Outcome> outcome = merger.merge(utf8(b), utf8(s), utf8(t));
    outcome.ifPresent(
        o -> {
          assertThat(List.of(text(o.ifSource()).strip().split(" +")))
              .allMatch(word -> source.contains(word) || target.contains(word) || word.isEmpty());
          assertThat(
                  Passages.between(
                      new weftex.core.row.Value.Text(o.ifSource()),
                      new weftex.core.row.Value.Text(o.ifTarget())))
              .hasValueSatisfying(
                  passages -> {
                    List<Passages.Side> all =
                        java.util.Collections.nCopies(passages.open(), Passages.Side.SOURCE);
                    List<Passages.Side> none =
                        java.util.Collections.nCopies(passages.open(), Passages.Side.TARGET);
                    assertThat(passages.text(all).display()).isEqualTo(text(o.ifSource()));
                    assertThat(passages.text(none).display()).isEqualTo(text(o.ifTarget()));
                  });
        });
    if (s.equals(b)) {
      outcome.ifPresent(o -> assertThat(text(o.ifSource())).isEqualTo(t));
    }
  }

  @Provide
  Arbitrary<List<String>> wordings() {
    return Arbitraries.of("a", "b", "c", "d:e", "fähre", "⛴").list().ofMinSize(8).ofMaxSize(14);
  }
}
