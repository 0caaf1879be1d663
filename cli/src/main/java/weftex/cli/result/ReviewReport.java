package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** A change set as it stands. */
public record ReviewReport(
    @JsonUnwrapped Named set,
    int changes,
    Map<String, Long> standing,
    List<Said> decisions,
    @JsonUnwrapped Approvals approvals,
    @JsonUnwrapped Things things,
    List<Row> rows) {

  /**
   * What the change set says of itself.
   *
   * @param argument how commands are told which it is; empty for the newest
   */
  public record Named(
      String file,
      @JsonIgnore String argument,
      String site,
      String from,
      String into,
      String target,
      Optional<String> base,
      String drafted) {}

  /**
   * Who approved it.
   *
   * @param approved whether that still holds
   * @param approvalsMissing how many more people have to
   * @param approvalsSigned whether an approval counts only if it is signed
   */
  public record Approvals(
      List<String> approvedBy, boolean approved, int approvalsMissing, boolean approvalsSigned) {}

  /** The first things; {@code itemsBeyond} says how many more there are. */
  public record Things(List<Item> items, long itemsBeyond) {}

  /**
   * A thing as a person sees it, as its changes stand.
   *
   * @param numbers its changes
   * @param standing how many of them stand how
   * @param open kinds of conflict that are not decided
   * @param because why it comes along though nobody chose it; empty if somebody did
   */
  public record Item(
      @JsonUnwrapped ItemReport item,
      List<Integer> numbers,
      Map<String, Long> standing,
      List<String> open,
      String because) {}

  /**
   * A decision.
   *
   * @param number by which it can be withdrawn
   * @param column empty for the whole change
   * @param passage of the column's text; 0 for the whole column
   * @param withdrawnBy who took it back; empty if it holds
   */
  public record Said(
      int number,
      List<Integer> changes,
      String column,
      int passage,
      String answer,
      String by,
      String at,
      String why,
      String withdrawnBy) {}

  /** One change as it stands. */
  public record Row(String standing, List<String> open, List<Integer> needs, JsonNode change) {}
}
