package weftex.core.scan;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import weftex.core.address.Address;
import weftex.core.address.AddressMap;
import weftex.core.address.CopyAddress;
import weftex.core.address.MappedRows;
import weftex.core.model.SiteModel;
import weftex.core.reference.RowFinder;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;

class ScannerTest {
  private static final String MODEL =
      """
      model: test
      linked-files: [media]
      markup:
        - {css-class: picture-, to: pictures}
      tables:
        pages:
          identity: [slug]
          identity-unless: {slug: ["draft*"]}
          references: {parent: {to: pages, unset: "0"}}
          rows: [{when: {slug: [old]}, role: noise}]
          inside:
            body: [{markup: true}]
        pictures:
          files: [{column: file, under: media}]
        settings:
          stays: {name: [address]}
          prefixed: {name: {names: [user_roles], except: ["stg_tools*"]}}
      """;

  private final Map<String, List<List<Value>>> rows = new LinkedHashMap<>();
  private final SiteMap site;

  ScannerTest() throws Exception {
    site =
        SiteMap.resolve(
            SiteModel.read(MODEL),
            List.of(
                table("pages", "id", "slug", "parent", "body"),
                table("pictures", "id", "file"),
                table("settings", "id", "name", "value")));
  }

  private static Table table(String name, String... columns) {
    List<Column> shapes =
        List.of(columns).stream()
            .map(
                c ->
                    new Column(
                        c,
                        List.of("id", "parent").contains(c) ? ValueKind.WHOLE : ValueKind.TEXT,
                        "x",
                        0,
                        false,
                        false,
                        false))
            .toList();
    return new Table(name, shapes, List.of(0), 0, List.of(), List.of());
  }

  private void row(String table, Object... cells) {
    List<Value> values = new ArrayList<>();
    for (Object cell : cells) {
      values.add(cell instanceof Integer number ? Value.whole(number) : Value.text((String) cell));
    }
    rows.computeIfAbsent(table, unused -> new ArrayList<>()).add(values);
  }

  /** What is found, as {@code kind table.column key: what (role)}. */
  private List<String> scan() throws Exception {
    RowFinder finder =
        new RowFinder() {
          @Override
          public List<Row> find(Table table, List<Integer> columns, List<Value> values, int limit) {
            return rows.getOrDefault(table.name(), List.of()).stream()
                .filter(row -> Table.pick(row, columns).equals(values))
                .limit(limit)
                .map(ScannerTest::packed)
                .toList();
          }

          @Override
          public long count(Table table, List<Integer> columns, List<Value> values) {
            return find(table, columns, values, Integer.MAX_VALUE).size();
          }
        };
    Findings findings = new Findings(10);
    Scanner scanner =
        new Scanner(
            site,
            finder,
            new OtherCopy(
                AddressMap.of(
                    address("https://staging.example"),
                    address("https://live.example"),
                    List.of(),
                    false),
                AddressMap.of(
                    address("https://staging.example"),
                    address("https://live.example"),
                    List.of(),
                    true),
                new MappedRows.Prefixes("stg_", "live_"),
                OtherCopy.Counterpart.NONE),
            Set.of("live.example"),
            path -> path.equals("media/there.jpg"),
            findings);
    for (var model : scanner.order()) {
      Iterator<List<Value>> all = rows.getOrDefault(model.table().name(), List.of()).iterator();
      scanner.table(
          model,
          new RowStream() {
            @Override
            public Row next() {
              return all.hasNext() ? packed(all.next()) : Row.ABSENT;
            }

            @Override
            public void close() {}
          },
          n -> {});
    }
    scanner.finish();
    return findings.sorts().stream()
        .flatMap(sort -> sort.first().stream())
        .map(
            f ->
                f.kind().label()
                    + " "
                    + f.table()
                    + "."
                    + f.column()
                    + " "
                    + f.key()
                    + ": "
                    + f.what()
                    + (f.role() == weftex.core.model.Role.CONTENT
                        ? ""
                        : " (" + f.role().words() + ")"))
        .toList();
  }

  private static CopyAddress address(String url) {
    return new CopyAddress(Optional.of(Address.parse(url)), false, Optional.empty());
  }

  private static Row packed(List<Value> values) {
    return Row.of(SortKey.ofWhole(((Value.Whole) values.get(0)).number()), values);
  }

  @Test
  void aSoundCopyHasNoFindings() throws Exception {
    row("pages", 1, "home", 0, "See <img class=\"picture-1\"> at https://live.example/a");
    row("pages", 2, "fares", 1, "x");
    row("pictures", 1, "there.jpg");
    row("settings", 1, "address", "https://live.example");
    assertThat(scan()).isEmpty();
  }

  @Test
  void namesWithTheOtherCopysPrefixAreFound() throws Exception {
    row("settings", 1, "live_user_roles", "x");
    row("settings", 2, "stg_user_roles", "x");
    row("settings", 3, "stg_seen", "x");
    row("settings", 4, "stg_tools_colour", "x");
    row("settings", 5, "my_stg_user_roles", "x");
    assertThat(scan())
        .containsExactly(
            "prefix settings.name 2: stg_user_roles, here live_user_roles",
            "prefix settings.name 3: stg_seen, here live_seen");
  }

  @Test
  void everythingThatIsWrongIsFound() throws Exception {
    row("pages", 1, "home", 9, "See https://staging.example/a and https:\\/\\/staging.example");
    row("pages", 2, "home", 3, "<img class=\"picture-7\">");
    row("pages", 3, "draft", 0, "a:1:{s:3:\"ab\";i:1;}");
    row("pages", 4, "draft", 0, "<img src='/media/lost.png'> /media/there.jpg");
    row("pictures", 1, "gone.jpg");
    assertThat(scan())
        .containsExactlyInAnyOrder(
            "leftover pages.body 1: plain",
            "leftover pages.body 1: JSON-escaped",
            "broken-reference pages.parent 1: pages 9",
            "broken-reference pages.body 2: pictures 7",
            "duplicate pages.slug 2: like pages 1: home",
            "malformed pages.body 3: " + malformed(),
            "missing-file pages.body 4: media/lost.png",
            "missing-file pictures.file 1: media/gone.jpg");
  }

  @Test
  void theOtherCopysHostAloneIsPerhapsMeant() throws Exception {
    row("pages", 1, "home", 0, "Write to mira@staging.example, not to https://live.example/x");
    row("pages", 2, "news", 0, "See https://staging.example/news");
    assertThat(scan())
        .containsExactly("leftover pages.body 2: plain", "mention pages.body 1: host alone");
  }

  @Test
  void whatSaysTheSameThroughoutIsThereTwiceUnlessItIsKnownByAName() throws Exception {
    row("pages", 1, "draft", 0, "Winter sailings");
    row("pages", 2, "draft-2", 0, "Winter sailings");
    row("pages", 3, "draft", 0, "Winter sailings");
    row("pages", 4, "draft", 0, "short");
    row("pages", 5, "draft", 0, "short");
    row("pages", 6, "old", 0, "Summer sailings");
    row("pages", 7, "old", 0, "Summer sailings");
    assertThat(scan().stream().filter(found -> found.startsWith("doubled")))
        .containsExactly("doubled pages.id 3: says the same as pages 1");
  }

  /** The words are the reader's own; only that there are some, and where, matters here. */
  private String malformed() throws Exception {
    return scan().stream()
        .filter(line -> line.startsWith("malformed"))
        .map(line -> line.substring(line.indexOf(": ") + 2))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void whatIsWrongInNoiseAndInACopysOwnSettingsIsSaidApart() throws Exception {
    row("pages", 1, "old", 9, "https://staging.example");
    row("settings", 1, "address", "https://staging.example");
    assertThat(scan())
        .containsExactlyInAnyOrder(
            "leftover pages.body 1: plain (noise)",
            "leftover settings.value 1: plain (noise)",
            "broken-reference pages.parent 1: pages 9 (noise)");
  }

  @Test
  void aSetOfNumbersHoldsLargeAndSmallOnes() {
    NumberSet set = new NumberSet();
    List<BigInteger> numbers =
        List.of(
            BigInteger.ZERO,
            BigInteger.valueOf(65_535),
            BigInteger.valueOf(65_536),
            BigInteger.valueOf(Long.MAX_VALUE),
            new BigInteger("18446744073709551615"),
            BigInteger.valueOf(-3));
    numbers.forEach(set::add);
    assertThat(numbers).allMatch(set::contains);
    assertThat(set.contains(BigInteger.ONE)).isFalse();
    assertThat(set.contains(BigInteger.valueOf(65_537))).isFalse();
  }

  @Test
  void aSetOfHashesSaysWhatIsNew() {
    HashSetOfLongs set = new HashSetOfLongs();
    for (long i = -5000; i < 5000; i++) {
      assertThat(set.add(i * 0x9e3779b97f4a7c15L)).isTrue();
    }
    for (long i = -5000; i < 5000; i++) {
      assertThat(set.add(i * 0x9e3779b97f4a7c15L)).isFalse();
    }
  }
}
