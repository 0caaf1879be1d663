package weftex.core.file;

import static org.assertj.core.api.Assertions.assertThat;
import static weftex.core.file.FileSite.row;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import weftex.core.compare.RowMapping;
import weftex.core.row.Row;
import weftex.core.row.SortKey;
import weftex.core.row.Value;

class NamedFilesTest {
  private final FileSite site = new FileSite();

  @Test
  void columnsMembersAndLinksNameFiles() {
    assertThat(site.names.in(site.details(), row("file", "2026/pier.jpg")))
        .containsExactly("media/2026/pier.jpg");
    assertThat(
            site.names.in(
                site.details(),
                row("sizes", FileSite.sizes("2026/pier.jpg", "pier-300.jpg", "pier-90.jpg"))))
        .containsExactly(
            "media/2026/pier.jpg", "media/2026/pier-300.jpg", "media/2026/pier-90.jpg");
    assertThat(
            site.names.in(
                site.site.table("pages"),
                row(
                    "<a href=\"/media/fares.pdf\">, //skerrow.example/media/a%20b.jpg?v=2,"
                        + " https://elsewhere.example/media/no.jpg")))
        .containsExactly("media/fares.pdf", "media/a b.jpg");
  }

  @Test
  void whatLeadsOutOfTheFolderNamesNoFile() {
    assertThat(site.names.in(site.details(), row("file", "../../etc/passwd"))).isEmpty();
    assertThat(
            site.names.in(
                site.details(), row("sizes", FileSite.sizes("2026/pier.jpg", "../../x.jpg"))))
        .containsExactly("media/2026/pier.jpg");
  }

  @Test
  void otherRowsAndDamagedValuesNameNothing() {
    assertThat(site.names.in(site.details(), row("title", "2026/pier.jpg"))).isEmpty();
    assertThat(site.names.in(site.details(), row("sizes", "a:2:{s:4:\"file\";s:99:\"x"))).isEmpty();
  }

  @Test
  void anotherNameIsFollowedWhereverItStands() {
    FileNameMap map =
        new FileNameMap(
            Map.of(
                "media/2026/pier.jpg", "media/2026/pier-1.jpg",
                "media/2026/pier-300.jpg", "media/2026/pier-1-300.jpg"));
    RowMapping mapping =
        map.over(RowMapping.NONE, List.of(site.details(), site.site.table("pages")));
    assertThat(value(mapping, 0, 2, row("file", "2026/pier.jpg"))).isEqualTo("2026/pier-1.jpg");
    assertThat(
            value(
                mapping,
                0,
                2,
                row("sizes", FileSite.sizes("2026/pier.jpg", "pier-300.jpg", "pier-90.jpg"))))
        .isEqualTo(FileSite.sizes("2026/pier-1.jpg", "pier-1-300.jpg", "pier-90.jpg"));
    // Another picture's size has the same bare name, in another folder.
    String other = FileSite.sizes("2025/pier.jpg", "pier-300.jpg");
    assertThat(value(mapping, 0, 2, row("sizes", other))).isEqualTo(other);
    assertThat(
            value(
                mapping,
                1,
                1,
                row(
                    "<img src=\"https://skerrow.example/media/2026/pier-300.jpg\"> /media/2026/pier.jpg,"
                        + " /media/2026/pier.jpgs {\"u\":\"\\/media\\/2026\\/pier.jpg\"}")))
        .isEqualTo(
            "<img src=\"https://skerrow.example/media/2026/pier-1-300.jpg\"> /media/2026/pier-1.jpg,"
                + " /media/2026/pier.jpgs {\"u\":\"\\/media\\/2026\\/pier-1.jpg\"}");
  }

  private static String value(RowMapping mapping, int table, int column, List<Value> row) {
    return mapping
        .map(table, Row.of(new SortKey(new byte[] {1}), row))
        .values()
        .get(column)
        .display();
  }
}
