package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.util.List;
import weftex.cli.session.Took;

/**
 * What was drafted.
 *
 * @param files those that go along
 * @param took how long it took, and how large the file is
 */
public record DraftReport(
    @JsonUnwrapped Named set,
    @JsonUnwrapped Made made,
    @JsonUnwrapped Open open,
    FilesReport files,
    @JsonUnwrapped Decided decided,
    InsideReport inside,
    RolesReport roles,
    @JsonUnwrapped Sealed sealed,
    Took took) {

  /**
   * The change set.
   *
   * @param argument how commands are told which it is; empty for the newest
   */
  public record Named(String file, @JsonIgnore String argument, String from, String into) {}

  /**
   * What it would make.
   *
   * @param schema new tables and columns
   */
  public record Made(int changes, List<String> schema, long adds, long updates, long removes) {}

  /**
   * What is left to a person.
   *
   * @param conflicts changes that need a decision
   * @param offered rows that nobody chose and that chosen ones refer to
   * @param ruled how many changes a standing rule decided
   */
  public record Open(long conflicts, long offered, long ruled) {}

  /**
   * What was decided before.
   *
   * @param kept things in which a draft of everything keeps the receiving copy's side
   * @param carried how many decisions about changes were taken along from an earlier draft
   * @param fallen decisions of the earlier draft that do not fit any more
   */
  public record Decided(List<String> kept, long carried, List<Fallen> fallen) {}

  /**
   * Who can read it.
   *
   * @param sealedFor as people call them; none if it is not sealed
   * @param openable whether one of the drafter's own keys opens it
   */
  public record Sealed(List<String> sealedFor, @JsonIgnore boolean openable) {}

  /** A decision that fell away, about a change by the number that it had. */
  public record Fallen(
      int change,
      String thing,
      String answer,
      String column,
      String by,
      String why,
      String because) {}
}
