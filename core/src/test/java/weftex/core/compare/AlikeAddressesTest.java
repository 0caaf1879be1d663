package weftex.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.address.Address;
import weftex.core.address.AddressBook;
import weftex.core.address.AddressMap;
import weftex.core.address.CopyAddress;
import weftex.core.address.MappedRows;
import weftex.core.mask.Masking;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** What differs by address alone differs in neither direction, whichever copy the base is of. */
class AlikeAddressesTest {
  private static final Table PAGES =
      new Table(
          "pages",
          List.of(Column.of("id", ValueKind.WHOLE), Column.of("text", ValueKind.TEXT)),
          List.of(0),
          0,
          List.of(),
          List.of());
  private static final List<TableModel> TABLES =
      List.copyOf(SiteMap.resolve(SiteModel.PLAIN, List.of(PAGES)).tables());

  /** Of which copy a base is, and whose address it has: staging was once taken from live. */
  private static final String[][] RECORDED = {
    {"live", "live"}, {"staging", "staging"}, {"staging", "live"},
  };

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          http://localhost:8080/test  | https://skerrow.example | at http://localhost:8080/test/a          | at https://skerrow.example/a
          http://localhost:8080/test  | https://skerrow.example | at https://localhost:8080/test/a         | at http://skerrow.example/a
          http://localhost:8080/test  | https://skerrow.example | at localhost:8080/test/a                 | at skerrow.example/a
          http://localhost:8080/test  | https://skerrow.example | <a href="/test/a">                       | <a href="/a">
          http://localhost:8080/test  | https://skerrow.example | /test/a                                  | /a
          https://skerrow.example/t   | https://skerrow.example | /t, http://skerrow.example/t/a, href='/t' | /, http://skerrow.example/a, href='/'
          https://staging.example     | https://skerrow.example | http://staging.example                   | http://skerrow.example
          https://staging.example     | https://skerrow.example | https://staging.example                  | http://skerrow.example
          http://staging.example      | https://skerrow.example | http://staging.example                   | https://skerrow.example
          """)
  void differByAddressAlone(String staging, String live, String onStaging, String onLive)
      throws Exception {
    AddressBook book =
        new AddressBook(Map.of("staging", copy(staging), "live", copy(live)), List.of(), false);
    Map<String, String> texts = Map.of("staging", onStaging, "live", onLive);
    for (String into : List.of("live", "staging")) {
      String from = into.equals("live") ? "staging" : "live";
      for (String[] recorded : RECORDED) {
        String base = recorded[0];
        Comparison.Sides sides =
            new Comparison.Sides(
                side(texts.get(recorded[1])),
                side(texts.get(from)),
                side(texts.get(into)),
                mapped(book, base, into),
                mapped(book, from, into),
                BaseMoves.NONE,
                KnownRanges.NONE);
        MemoryLog log = new MemoryLog();
        Comparison comparison = Comparison.threeWay(TABLES, sides, log, rows -> {});
        String what = "base of " + base + " with the text of " + recorded[1] + ", into " + into;
        assertThat(comparison.bySource(0)).as(what).isEmpty();
        if (base.equals(recorded[1])) {
          assertThat(comparison.tally(0).unchanged()).as(what).isEqualTo(1);
        }
      }
      Comparison without =
          Comparison.twoWay(
              TABLES,
              new Comparison.TwoSides(
                  side(texts.get(from)),
                  side(texts.get(into)),
                  mapped(book, from, into),
                  Comparison.Pairs.BY_KEY),
              new MemoryLog(),
              rows -> {});
      assertThat(without.tally(0).unchanged()).as("without a base, into %s", into).isEqualTo(1);
    }
  }

  private static CopyAddress copy(String address) {
    return new CopyAddress(Optional.of(Address.parse(address)), false, Optional.empty());
  }

  private static RowMapping mapped(AddressBook book, String from, String into) {
    AddressMap back = book.between(into, from);
    return new MappedRows(
        book.between(from, into), back, MappedRows.Prefixes.SAME, Masking.NONE, TABLES);
  }

  private static Side side(String text) {
    return table ->
        new RowStream() {
          private boolean read;

          @Override
          public Row next() {
            Row row = Row.of(SortKey.ofWhole(1), List.of(Value.whole(1), Value.text(text)));
            boolean again = read;
            read = true;
            return again ? Row.ABSENT : row;
          }

          @Override
          public void close() {}
        };
  }
}
