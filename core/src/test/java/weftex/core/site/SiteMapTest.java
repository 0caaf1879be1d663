package weftex.core.site;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import org.junit.jupiter.api.Test;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.row.Column;
import weftex.core.row.ForeignKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;
import weftex.core.yaml.YamlProblem;

class SiteMapTest {

  private static Column whole(String name) {
    return new Column(name, ValueKind.WHOLE, "bigint", 0, false, false, false);
  }

  private static Column text(String name) {
    return new Column(name, ValueKind.TEXT, "varchar(50)", 0, false, false, false);
  }

  private static final Table PAGES =
      new Table(
          "pages",
          List.of(whole("id"), text("slug"), whole("parent")),
          List.of(0),
          0,
          List.of(List.of(1)),
          List.of());

  @Test
  void aLoneUniqueKeyIsTheIdentityOfANumberedTable() {
    SiteMap site = SiteMap.resolve(SiteModel.PLAIN, List.of(PAGES));
    assertThat(site.table("pages").identity().columns()).containsExactly(1);
    assertThat(site.table("pages").ownership().role()).isEqualTo(Role.CONTENT);
  }

  @Test
  void twoUniqueKeysLeaveTheIdentityOpen() {
    Table two =
        new Table(
            "pages", PAGES.columns(), List.of(0), 0, List.of(List.of(1), List.of(2)), List.of());
    assertThat(SiteMap.resolve(SiteModel.PLAIN, List.of(two)).table("pages").identity().columns())
        .isEmpty();
  }

  @Test
  void aKeyThatIsAForeignKeyIsNoNumber() {
    Table details =
        new Table(
            "page_details",
            List.of(whole("page_id"), text("note")),
            List.of(0),
            0,
            List.of(),
            List.of(new ForeignKey(List.of("page_id"), "pages", List.of("id"))));
    SiteMap site = SiteMap.resolve(SiteModel.PLAIN, List.of(PAGES, details));
    assertThat(site.table("page_details").table().isNumbered()).isFalse();
    assertThat(site.incoming("pages")).hasSize(1);
  }

  @Test
  void columnsThatACopyHasForItselfAreKnownInCapitalsOrNot() throws YamlProblem {
    SiteModel model =
        SiteModel.read(
            """
            model: test
            tables:
              pages:
                columns: {Parent: ignored}
            """);
    TableModel pages = SiteMap.resolve(model, List.of(PAGES)).table("pages");
    assertThat(pages.isOwn(2)).isTrue();
    assertThat(pages.own()).containsExactly("parent");
    assertThat(pages.own().contains("PARENT")).isTrue();
    assertThat(SiteMap.resolve(SiteModel.PLAIN, List.of(PAGES)).table("pages").own()).isEmpty();
  }

  @Test
  void aModelAddsReferencesNumbersAndRoles() throws YamlProblem {
    SiteModel model =
        SiteModel.read(
            """
            model: test
            tables:
              pages:
                number: id
                identity: slug
                references:
                  parent: {to: pages, unset: "0"}
                stays: {slug: [home]}
              visits: {role: noise}
            """);
    Table unnumbered = new Table("pages", PAGES.columns(), List.of(0), -1, List.of(), List.of());
    TableModel pages = SiteMap.resolve(model, List.of(unnumbered)).table("pages");
    assertThat(pages.table().isNumbered()).isTrue();
    assertThat(pages.references())
        .containsExactly(new Reference(List.of(2), "pages", List.of(0), "0", false));
    assertThat(pages.references().get(0).isUnset(List.of(Value.whole(0)))).isTrue();
    assertThat(pages.references().get(0).isUnset(List.of(Value.whole(4)))).isFalse();
    assertThat(pages.stays(List.of(Value.whole(1), Value.text("home"), Value.whole(0)))).isTrue();
    assertThat(model.rule("visits").ownership().roleOrContent()).isEqualTo(Role.NOISE);
  }

  @Test
  void whatAModelSaysOfMissingTablesAndColumnsIsPassedOver() throws YamlProblem {
    SiteModel model =
        SiteModel.read(
            """
            model: test
            tables:
              pages: {references: {gone: {to: pages}, parent: {to: nowhere}}}
              elsewhere: {role: live}
            """);
    assertThat(SiteMap.resolve(model, List.of(PAGES)).table("pages").references()).isEmpty();
  }

  @Test
  void aModelWithAnUnknownKeyIsRefusedWithItsLine() {
    YamlProblem problem =
        catchThrowableOfType(
            YamlProblem.class,
            () -> SiteModel.read("model: test\ntables:\n  pages:\n    identiy: [slug]\n"));
    assertThat(problem.sentence())
        .isEqualTo("line 4: unknown key 'identiy' at 'tables.pages'; did you mean 'identity'?");
  }

  @Test
  void theBuiltInModelsCanBeRead() throws YamlProblem {
    for (String name : SiteModel.builtIn()) {
      assertThat(SiteModel.readBuiltIn(name).model()).isEqualTo(name);
    }
  }
}
