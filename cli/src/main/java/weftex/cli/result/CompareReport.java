package weftex.cli.result;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What differs. */
public record CompareReport(
    String from,
    String into,
    Optional<String> base,
    List<TableCompared> tables,
    Map<String, String> notCompared,
    List<ItemReport> items,
    long itemsBeyond,
    FilesReport files,
    InsideReport inside,
    RolesReport roles,
    List<JsonNode> changes,
    long more) {

  /** How a table's rows stand. */
  public record TableCompared(
      String name,
      String role,
      boolean chosen,
      long same,
      long added,
      long updated,
      long removed,
      long targetAdded,
      long targetUpdated,
      long targetRemoved,
      long conflicts) {

    /** Whether neither side changed anything. */
    public boolean isUnchanged() {
      return added + updated + removed + targetAdded + targetUpdated + targetRemoved == 0;
    }
  }
}
