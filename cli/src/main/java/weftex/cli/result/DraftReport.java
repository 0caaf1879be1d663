package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.List;
import weftex.cli.session.Took;

/**
 * What was drafted.
 *
 * @param argument how commands are told which change set it is; empty for the newest
 * @param schema new tables and columns
 * @param conflicts changes that need a decision
 * @param offered rows that nobody chose and that chosen ones refer to
 * @param ruled how many changes a standing rule decided
 * @param files those that go along
 * @param kept things in which a draft of everything keeps the receiving copy's side
 * @param carried how many decisions about changes were taken along from an earlier draft
 * @param fallen decisions of the earlier draft that do not fit any more
 * @param sealedFor for whom it is sealed, as people call them; none if it is not
 * @param openable whether one of the drafter's own keys opens it
 * @param took how long it took, and how large the file is
 */
public record DraftReport(
    String file,
    @JsonIgnore String argument,
    String from,
    String into,
    int changes,
    List<String> schema,
    long adds,
    long updates,
    long removes,
    long conflicts,
    long offered,
    long ruled,
    FilesReport files,
    List<String> kept,
    long carried,
    List<Fallen> fallen,
    InsideReport inside,
    RolesReport roles,
    List<String> sealedFor,
    @JsonIgnore boolean openable,
    Took took) {

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
