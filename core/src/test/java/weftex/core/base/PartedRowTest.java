package weftex.core.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weftex.core.base.PartedRow.Owner;
import weftex.core.match.BaseEvidence.Weight;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** What two copies had when they parted, as far as their rows tell. */
class PartedRowTest {
  private static final String BEFORE = "2026-10-01 08:00:00";
  private static final String SINCE = "2026-11-20 08:00:00";

  private TableModel pages;
  private TableModel links;
  private Parting parting;

  @BeforeEach
  void bothHaveTenPagesAlike() throws Exception {
    Table shape =
        new Table(
            "pages",
            List.of(
                column("id", ValueKind.WHOLE),
                column("slug", ValueKind.TEXT),
                column("title", ValueKind.TEXT),
                column("body", ValueKind.TEXT),
                column("status", ValueKind.TEXT),
                column("changed", ValueKind.TEXT)),
            List.of(0),
            0,
            List.of(),
            List.of());
    Table keyed =
        new Table(
            "links",
            List.of(column("page", ValueKind.WHOLE), column("tag", ValueKind.TEXT)),
            List.of(0, 1),
            -1,
            List.of(),
            List.of());
    SiteMap site =
        SiteMap.resolve(
            SiteModel.read(
                "model: test\ntables:\n  pages: {identity: [slug], columns: {changed: newer}}\n"
                    + "  links: {}\n"),
            List.of(shape, keyed));
    pages = site.table("pages");
    links = site.table("links");
    parting = new Parting(Optional.empty());
    parting.sawAlike(pages, page(10, "fares", "Fares", BEFORE));
    parting.sawAlike(pages, page(4, "home", "Home", "0000-00-00 00:00:00"));
  }

  private static Column column(String name, ValueKind kind) {
    return new Column(name, kind, "x", 0, true, false, false);
  }

  private static Row page(long id, String slug, String title, String changed) {
    return row(
        id,
        Value.whole(id),
        Value.text(slug),
        Value.text(title),
        Value.text("Of " + title),
        Value.text("shown " + title),
        Value.text(changed));
  }

  private static Row row(long key, Value... values) {
    return Row.of(
        new SortKey.Builder().add(java.math.BigInteger.valueOf(key)).build(), List.of(values));
  }

  private static PartedRow.Side staging(Row row, Owner owner) {
    return new PartedRow.Side("staging", row, owner);
  }

  private static PartedRow.Side live(Row row, Owner owner) {
    return new PartedRow.Side("live", row, owner);
  }

  private PartedRow parted(Row onStaging, Row onLive) {
    return PartedRow.of(pages, staging(onStaging, Owner.KNOWN), live(onLive, Owner.KNOWN), parting);
  }

  @ParameterizedTest(name = "staging {0}, live {1}: {2}")
  @CsvSource({
    "2026-11-20 08:00:00, 2026-10-01 08:00:00, live, staging changed it on 2026-11-20 08:00:00, EVIDENCE",
    "2026-09-01 08:00:00, 2026-11-20T09:00:00, staging, live changed it on 2026-11-20 09:00:00, EVIDENCE",
    "2026-11-20 08:00:00, 2026-11-21 08:00:00, live, both copies changed it, QUESTION",
    "2026-09-01 08:00:00, 2026-10-01 08:00:00, live, nothing says which copy changed it, QUESTION",
    "0000-00-00 00:00:00, 2026-10-01 08:00:00, live, nothing says which copy changed it, QUESTION"
  })
  void theTimeOfChangeSaysWhoEdited(
      String onStaging, String onLive, String base, String words, Weight weight) {
    Row mine = page(7, "map", "Map of staging", onStaging);
    Row theirs = page(7, "map", "Map of live", onLive);
    PartedRow row = parted(mine, theirs);
    assertThat(row.base()).isSameAs(base.equals("live") ? theirs : mine);
    assertThat(row.why().words()).contains(words);
    assertThat(row.why().weight()).isEqualTo(weight);
  }

  @ParameterizedTest(name = "details of pages {0} and {1}: {2}")
  @CsvSource({"7, 8, each copy gave its ID out", "7, 7, both copies seem to have given its ID out"})
  void aDetailNeverMovesToAnotherPage(long onStaging, long onLive, String words) throws Exception {
    TableModel details = details();
    parting.sawAlike(details, detail(3, 7, "large"));
    Row mine = detail(4, onStaging, "small");
    Row theirs = detail(4, onLive, "wide");
    PartedRow row =
        PartedRow.of(details, staging(mine, Owner.KNOWN), live(theirs, Owner.KNOWN), parting);
    assertThat(row.why().words()).startsWith(words);
    assertThat(row.isApart()).isEqualTo(onStaging != onLive);
    assertThat(row.isUncertain(details, mine, theirs)).isEqualTo(onStaging == onLive);
  }

  private static TableModel details() throws Exception {
    Table shape =
        new Table(
            "details",
            List.of(
                column("id", ValueKind.WHOLE),
                column("page", ValueKind.WHOLE),
                column("name", ValueKind.TEXT),
                column("value", ValueKind.TEXT)),
            List.of(0),
            0,
            List.of(),
            List.of());
    Table pages =
        new Table(
            "pages", List.of(column("id", ValueKind.WHOLE)), List.of(0), 0, List.of(), List.of());
    return SiteMap.resolve(
            SiteModel.read(
                "model: test\ntables:\n  pages: {}\n"
                    + "  details: {identity: [page, name], part-of: page, references: {page: {to: pages}}}\n"),
            List.of(shape, pages))
        .table("details");
  }

  private static Row detail(long id, long page, String name) {
    return row(id, Value.whole(id), Value.whole(page), Value.text(name), Value.text("1"));
  }

  @Test
  void whoEditedARowMayBeUnknownThoughItIsOne() {
    Row mine = page(7, "map", "Map", BEFORE);
    Row theirs = page(7, "map", "Plan", BEFORE);
    Row other = page(7, "bus", "Bus", BEFORE);
    assertThat(parted(mine, theirs).why().weight()).isEqualTo(Weight.QUESTION);
    assertThat(parted(mine, theirs).isUncertain(pages, mine, theirs)).isFalse();
    assertThat(parted(mine, other).isUncertain(pages, mine, other)).isTrue();
    assertThat(parted(mine, Row.ABSENT).isUncertain(pages, mine, Row.ABSENT)).isFalse();
  }

  @Test
  void aHigherNumberWasGivenOutSince() {
    PartedRow row = parted(page(11, "ice", "Ice", SINCE), Row.ABSENT);
    assertThat(row.base().isPresent()).isFalse();
    assertThat(row.why().words()).contains("added on staging after the copies parted");
    assertThat(row.why().weight()).isEqualTo(Weight.EVIDENCE);
  }

  @Test
  void whatHasALowerNumberOrWasNotChangedSinceWasThereBefore() {
    Row old = page(9, "old", "Old", SINCE);
    assertThat(parted(old, Row.ABSENT).base()).isSameAs(old);
    assertThat(parted(old, Row.ABSENT).why().words()).contains("so live removed it");
    Row last = page(11, "last", "Last", BEFORE);
    assertThat(parted(Row.ABSENT, last).base()).isSameAs(last);
    assertThat(parted(Row.ABSENT, last).why().words()).contains("so staging removed it");
  }

  /** Live's new page has a new picture, which staging can't have. */
  @Test
  void whatWasAddedIsNeverTakenForRemovedWithWhatItRefersTo() {
    Row mine = page(11, "ice", "Ice", SINCE);
    PartedRow row =
        PartedRow.of(pages, staging(Row.ABSENT, Owner.GONE), live(mine, Owner.KNOWN), parting);
    assertThat(row.base().isPresent()).isFalse();
  }

  @Test
  void twoNewThingsOfOneNumberHaveNoBase() {
    PartedRow row = parted(page(11, "ice", "Ice", SINCE), page(11, "storm", "Storm", SINCE));
    assertThat(row.isApart()).isTrue();
    Row renamed =
        row(
            11,
            Value.whole(11),
            Value.text("storm"),
            Value.text("Ice"),
            Value.text("Of Ice"),
            Value.text("shown Ice"),
            Value.text(SINCE));
    PartedRow perhaps = parted(page(11, "ice", "Ice", SINCE), renamed);
    assertThat(perhaps.why().weight()).isEqualTo(Weight.QUESTION);
  }

  @Test
  void aLinkGoesWithWhatItBelongsToOrIsAQuestion() {
    Row link = row(1, Value.whole(7), Value.text("snow"));
    assertThat(link(link, Owner.NEW, Row.ABSENT, Owner.GONE).base().isPresent()).isFalse();
    PartedRow gone = link(Row.ABSENT, Owner.GONE, link, Owner.KNOWN);
    assertThat(gone.base()).isSameAs(link);
    assertThat(gone.why().weight()).isEqualTo(Weight.WITH_ITS_OWNER);
    PartedRow mine = link(link, Owner.KNOWN, Row.ABSENT, Owner.KNOWN);
    assertThat(mine.base().isPresent()).isFalse();
    assertThat(mine.why().weight()).isEqualTo(Weight.QUESTION);
    PartedRow theirs = link(Row.ABSENT, Owner.KNOWN, link, Owner.KNOWN);
    assertThat(theirs.base()).as("or the removal would never be asked about").isSameAs(link);
    assertThat(theirs.why().weight()).isEqualTo(Weight.QUESTION);
    assertThat(link(link, Owner.ASKED, Row.ABSENT, Owner.ASKED).why().words())
        .contains("is a question itself");
  }

  private PartedRow link(Row mine, Owner ofMine, Row theirs, Owner ofTheirs) {
    return PartedRow.of(links, staging(mine, ofMine), live(theirs, ofTheirs), parting);
  }

  @Test
  void aTimeThatSomebodyKnowsCountsMore() {
    Parting said = new Parting(Optional.of("2026-11-01T09:00"));
    said.sawAlike(pages, page(10, "fares", "Fares", BEFORE));
    // Both made it since, by chance alike under one number.
    said.sawAlike(pages, page(15, "ice", "Ice", SINCE));
    assertThat(said.time()).isEqualTo("2026-11-01 09:00");
    assertThat(said.isAddedSince(pages, page(12, "x", "X", SINCE).values())).isTrue();
    assertThat(said.isChangedSince(pages, page(3, "y", "Y", "2026-11-01 09:00:01").values()))
        .isTrue();
  }
}
