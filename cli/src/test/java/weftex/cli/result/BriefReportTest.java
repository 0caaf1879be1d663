package weftex.cli.result;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** JSON has what was found, and not what only helps to word it. */
class BriefReportTest {
  private static List<String> names(BriefReport report) {
    JsonNode json =
        JsonMapper.builder().addModule(new Jdk8Module()).build().<JsonNode>valueToTree(report);
    List<String> names = new ArrayList<>();
    json.fieldNames().forEachRemaining(names::add);
    return names;
  }

  @Test
  void aPair() {
    assertThat(names(new BriefReport.Paired("weftex.yaml", "skerrow", "a", "b", Map.of())))
        .containsExactly("file", "site", "staging", "live", "addresses");
  }

  @Test
  void changeSetsThatArePutTogetherAndReviewed() {
    assertThat(names(new BriefReport.Joined("c.jsonl", "staging", "live", 4, 1, " c.jsonl")))
        .containsExactly("file", "from", "into", "changes", "decisions");
    assertThat(names(new BriefReport.Standing("c.jsonl", 2, false, " c.jsonl")))
        .containsExactly("file", "open", "approved");
    assertThat(names(new BriefReport.Signatures("signed", List.of("draft"), "signed/draft")))
        .containsExactly("folder", "signed");
    assertThat(names(new BriefReport.Page("c.html", "html", "c.jsonl", 4, 1, List.of())))
        .containsExactly("file", "format", "changeSet", "changes", "hidden", "sealedFor");
  }

  @Test
  void anImportThatIsConfirmed() {
    assertThat(names(new BriefReport.Confirmed("r1", "live", true, "2026-11-30", "live.sql")))
        .containsExactly("receipt", "copy", "ran");
  }

  @Test
  void modelsABundleAndTheDemo() {
    assertThat(names(new BriefReport.Guessed("guess.yaml", List.of(), "model: guess")))
        .containsExactly("file", "tables");
    assertThat(names(new BriefReport.Checked("m.yaml", "m", 3, List.of(), "live")))
        .containsExactly("file", "model", "tables", "missing");
    assertThat(names(new BriefReport.Bundled("help.zip", Map.of("check.txt", 12))))
        .containsExactly("file", "contents");
    assertThat(names(new BriefReport.Demo("/tmp/skerrow", false))).containsExactly("folder");
  }
}
