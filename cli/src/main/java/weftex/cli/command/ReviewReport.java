package weftex.cli.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A change set as it stands. */
public record ReviewReport(
    String file,
    String site,
    String from,
    String into,
    String target,
    Optional<String> base,
    String drafted,
    int changes,
    Map<String, Long> standing,
    List<String> approvedBy,
    boolean approved,
    List<Item> items) {

  /** One change as it stands. */
  public record Item(String standing, List<String> open, List<Integer> needs, JsonNode change) {}
}
