package weftex.core.changeset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.change.SchemaChange;

/** New tables and columns are data in a file, each part of it checked when it is read. */
class ShapeJsonTest {

  private static JsonNode json(String text) throws Exception {
    return JsonLines.parse(text.replace('\'', '"').getBytes(StandardCharsets.UTF_8));
  }

  @Test
  void whatIsWrittenIsReadAgain() throws Exception {
    for (SchemaChange change :
        List.of(Changes.newTable(1, "offers"), Changes.newColumn(2, "pages", "fee"))) {
      assertThat(LineParts.schema(JsonLines.parse(ChangeSetWriter.line(change)))).isEqualTo(change);
    }
  }

  @Test
  void statementsOfAnOlderVersionAreKnownByWhatTheyMadeAlone() throws Exception {
    SchemaChange change =
        LineParts.schema(
            json(
                "{'change':1,'do':'add-column','table':'pages','column':'fee','fill':'0','indexes':['by_fee'],"
                    + "'statements':['ALTER TABLE pages ADD COLUMN fee INT, DROP COLUMN title']}"));
    assertThat(change.made())
        .isEqualTo(new SchemaChange.Made.Named(Optional.of("fee"), List.of("by_fee")));
    assertThat(new String(ChangeSetWriter.line(change), StandardCharsets.UTF_8))
        .doesNotContain("DROP");
  }

  /** Each of these once dropped a column, read the server's accounts, or wrote a file elsewhere. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "{'name':'zz','type':'INT /*!50000 , DROP COLUMN body */'}",
        "{'name':'zz','type':'INT, DROP COLUMN body'}",
        "{'name':'zz','type':'INT) ENGINE=MERGE UNION=(accounts'}",
        "{'name':'zz','type':'INT AS (1)x'}",
        "{'name':'zz','type':'int','collation':'x DATA DIRECTORY'}",
        "{'name':'zz','type':'int','check':'1'}",
        "{'name':'','type':'int'}",
        "{'name':'z\\nz','type':'int'}",
        "{'name':'zz','type':'int','default':{'new':'pages#1'}}",
        "{'name':'zz','type':'int','defaultNow':70}"
      })
  void whatIsNoColumnIsRefused(String text) {
    assertThatThrownBy(() -> ShapeJson.column(json(text)))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{'columns':[]}",
        "{'columns':[{'name':'a','type':'int'}],'select':'*'}",
        "{'columns':[{'name':'a','type':'int'}],'engine':'MERGE UNION=(a)'}",
        "{'columns':[{'name':'a','type':'int'}],'indexes':[{'kind':'plain','name':'i','parts':[]}]}",
        "{'columns':[{'name':'a','type':'int'}],'indexes':[{'kind':'odd','name':'i','parts':[{'column':'a'}]}]}",
        "{'columns':[{'name':'a','type':'int'}],'references':[{'columns':['a'],'table':'b','targets':['c'],'onDelete':'drop','onUpdate':'none'}]}"
      })
  void whatIsNoTableIsRefused(String text) {
    assertThatThrownBy(() -> ShapeJson.table(json(text)))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
