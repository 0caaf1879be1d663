package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What differs. */
public record CompareReport(
    @JsonUnwrapped Copies copies,
    List<TableCompared> tables,
    Map<String, String> notCompared,
    @JsonUnwrapped Things things,
    FilesReport files,
    InsideReport inside,
    RolesReport roles,
    @JsonUnwrapped Listed listed) {

  /** What was compared with what. */
  public record Copies(String from, String into, Optional<String> base) {}

  /** The first things that differ; {@code itemsBeyond} says how many more there are. */
  public record Things(List<ItemReport> items, long itemsBeyond) {}

  /** Single rows of the table that is asked for; {@code more} says how many are not listed. */
  public record Listed(List<JsonNode> changes, long more) {}

  /** How a table's rows stand. */
  public record TableCompared(
      String name,
      String role,
      boolean chosen,
      long same,
      @JsonUnwrapped OnSource source,
      @JsonUnwrapped OnTarget target,
      long conflicts) {

    /** Rows that the source changed. */
    public record OnSource(long added, long updated, long removed) {}

    /** Rows that the target changed. */
    public record OnTarget(long targetAdded, long targetUpdated, long targetRemoved) {}

    /** Whether neither side changed anything. */
    public boolean isUnchanged() {
      return source.added + source.updated + source.removed == 0
          && target.targetAdded + target.targetUpdated + target.targetRemoved == 0;
    }
  }
}
