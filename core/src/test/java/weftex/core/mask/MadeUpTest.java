package weftex.core.mask;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

class MadeUpTest {
  private static final MadeUp MADE_UP =
      new MadeUp(new byte[] {1, 2, 3}, List.of("*@studio.example"));

  private static Column column(String name, String type) {
    return new Column(name, ValueKind.TEXT, type, 0, true, false, false);
  }

  private static String made(String real, String type) {
    return MADE_UP.of(Value.text(real), column("value", type)).display();
  }

  private static String made(String real) {
    return made(real, "text");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '§',
      value = {
        "mira@skerrow.example § [a-z]{18}@masked\\.example",
        "Mira § [A-Z][a-z]{17}",
        "mira § [a-z]{18}",
        "Mira Tangen § [A-Z][a-z]{7} [A-Z][a-z]{9}",
        "84.17.3.9 § 198\\.1[89]\\.\\d+\\.\\d+",
        "2a01:4f8::17 § 2001:db8:(:[0-9a-f]{1,4}){4}",
        "https://mira.example § https://masked\\.example/[a-z]{18}",
        "+47 (0)55 12-34 § \\+\\d\\d \\(\\d\\)\\d\\d \\d\\d-\\d\\d",
        "1984-02-29 § 1984-(0[1-9]|1[0-2])-([01]\\d|2[0-8])",
        "a:1:{i:0;s:4:\"Mira\";} § a:0:\\{\\}",
        "I sail since I was six and teach the knots on Hesk every spring. § [A-Z][a-z ]{40,}\\."
      })
  void itHasTheFormOfWhatItStandsFor(String real, String form) {
    assertThat(made(real)).matches(form).isEqualTo(made(real)).isNotEqualTo(real);
  }

  @Test
  void onePersonIsOnePersonWhereverTheyStandAndTwoAreTwo() {
    assertThat(made("Mira@Skerrow.example ")).isEqualTo(made("mira@skerrow.example"));
    Set<String> all = new HashSet<>();
    for (int i = 0; i < 100_000; i++) {
      all.add(made("passenger" + i));
    }
    assertThat(all).hasSize(100_000);
    MadeUp others = new MadeUp(new byte[] {1, 2, 4}, List.of());
    assertThat(others.of(Value.text("mira"), column("value", "text")))
        .isNotEqualTo(MADE_UP.of(Value.text("mira"), column("value", "text")));
  }

  @Test
  void whatIsEmptyStaysSoAndWhatIsNarrowIsKept() {
    assertThat(MADE_UP.of(Value.NULL, column("value", "text"))).isEqualTo(Value.NULL);
    assertThat(made("")).isEmpty();
    assertThat(made("Mira Tangen", "varchar(10)")).hasSize(10);
    assertThat(made("mira@skerrow.example", "varchar(20)")).hasSize(20).endsWith("@masked.example");
    Value number = MADE_UP.of(Value.whole(4_755_123), column("value", "bigint"));
    assertThat(((Value.Whole) number).number())
        .isBetween(new BigInteger("1000000"), new BigInteger("9999999"));
    Value bytes =
        MADE_UP.of(new Value.Binary(new byte[] {84, 17, 3, 9}), column("ip", "varbinary(16)"));
    assertThat(((Value.Binary) bytes).bytes()).hasSize(4).isNotEqualTo(new byte[] {84, 17, 3, 9});
  }

  @Test
  void ofARowOnlyWhatTheModelSaysIsMadeUp() throws Exception {
    Table table =
        new Table(
            "details",
            List.of(
                new Column("id", ValueKind.WHOLE, "bigint", 0, false, false, false),
                column("name", "text"),
                column("value", "text")),
            List.of(0),
            0,
            List.of(),
            List.of());
    SiteModel model =
        SiteModel.read(
            """
            model: skerrow
            tables:
              details: {personal: [{column: value, when: {name: [first_*]}}]}
            """);
    SiteModel masked =
        model.withMasked(java.util.Map.of("details", model.rule("details").personal().known()));
    TableModel said = SiteMap.resolve(masked, List.of(table)).table("details");
    assertThat(MADE_UP.of(said, row("first_name", "Mira")).values().get(2).display())
        .matches("[A-Z][a-z]{17}");
    for (Row row :
        List.of(row("colour", "Blue"), row("first_mail", "mira@studio.example"), Row.ABSENT)) {
      assertThat(MADE_UP.of(said, row)).isSameAs(row);
    }
    assertThat(said.isOwn(2)).isFalse();
    assertThat(said.isOwn(2, row("first_name", "Mira").values())).isTrue();
    assertThat(said.isOwn(2, row("colour", "Blue").values())).isFalse();
  }

  private static Row row(String name, String value) {
    return Row.of(SortKey.ofWhole(1), List.of(Value.whole(1), Value.text(name), Value.text(value)));
  }
}
