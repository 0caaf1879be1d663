package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringReader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** Reports, as the program writes them. */
class ReportProcessTest {
  @TempDir Path folder;

  @BeforeEach
  void draft() throws Exception {
    DemoSite site = DemoPair.marked(folder);
    site.week();
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("staging.db"));
        PreparedStatement insert =
            connection.prepareStatement("INSERT INTO skf_settings (name, value) VALUES (?, ?)")) {
      for (String[] row :
          new String[][] {
            {"script", "<script>alert('ferry')</script>"},
            {"formula", "=HYPERLINK(\"x\")"},
            {"marks", "*bold* _x_ \u202Eturned"}
          }) {
        insert.setString(1, row[0]);
        insert.setString(2, row[1]);
        insert.executeUpdate();
      }
    }
    weftex("draft", "--without", "sailings", "-o", "set.jsonl");
    weftex("review", "set.jsonl", "--keep", "page:Lost*", "--why", "it has an address now");
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private String report(String format, String file) throws Exception {
    Program.Ran ran = weftex("report", "set.jsonl", "--format", format, "-o", file);
    assertThat(ran.status()).as(ran.err()).isZero();
    assertThat(ran.out()).contains("Report of ", file);
    return Files.readString(folder.resolve(file));
  }

  @Test
  void aPageSaysWhatIsInTheChangeSet() throws Exception {
    String page = report("html", "set.html");
    assertThat(page)
        .contains("<p class=\"way\">staging → <span class=\"into\">live</span></p>")
        .contains("<b>4</b> to decide")
        .contains("<h2>To decide (4)</h2>")
        .contains("<del>deck</del>", "<ins>family</ins>", "<ins>all winter</ins>")
        .contains("booking_fee DECIMAL(6,2), not null, default 0")
        .contains("It gets a new ID, since live has or had another row under its own.")
        .contains("Keep live&#39;s side, says ", "it has an address now");
    assertThat(page.indexOf("To decide")).isLessThan(page.indexOf("<h2>page ("));
  }

  @Test
  void contentIsNeverMarkup() throws Exception {
    assertThat(report("html", "set.html"))
        .contains("&lt;script&gt;alert(&#39;ferry&#39;)&lt;/script&gt;", "[U+202E]turned")
        .doesNotContain("<script>alert(")
        .contains("default-src 'none'; img-src data:; style-src 'sha256-");
    assertThat(report("markdown", "set.md"))
        .contains("\\*bold\\* \\_x\\_ \\[U\\+202E\\]turned", "\\<script\\>alert")
        .contains("## To decide (4)", "base Four islands, one ~~deck~~");
    List<CSVRecord> records =
        CSVFormat.RFC4180
            .builder()
            .setHeader()
            .setSkipHeaderRecord(true)
            .get()
            .parse(new StringReader(report("csv", "set.csv")))
            .getRecords();
    assertThat(records)
        .extracting(row -> row.get("after"))
        .contains("'=HYPERLINK(\"x\")", "<script>alert('ferry')</script>");
    assertThat(records)
        .filteredOn(row -> row.get("conflicts").equals("gone-edited"))
        .allMatch(row -> row.get("standing").equals("keep"));
  }

  @Test
  void itIsForItsOwnerAndWritesOverNothing() throws Exception {
    byte[] before = Files.readAllBytes(folder.resolve("set.jsonl"));
    Program.Ran over = weftex("report", "set.jsonl", "-o", "set.jsonl");
    assertThat(over.status()).isEqualTo(2);
    assertThat(over.err()).contains("over the change set itself");
    assertThat(Files.readAllBytes(folder.resolve("set.jsonl"))).isEqualTo(before);
    Program.Ran format = weftex("report", "set.jsonl", "--format", "htlm");
    assertThat(format.status()).isEqualTo(2);
    assertThat(format.err()).contains("There is no format 'htlm'", "Did you mean 'html'?");
    assertThat(weftex("report", "set.jsonl").status()).isZero();
    assertThat(Files.getPosixFilePermissions(folder.resolve("set.html"))).hasSize(2);
  }
}
