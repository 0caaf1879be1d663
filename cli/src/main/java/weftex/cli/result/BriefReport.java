package weftex.cli.result;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.List;
import java.util.Map;
import weftex.core.derive.DerivedTable;

/** What is said in a line or two. */
public sealed interface BriefReport {

  /**
   * A weftex.yaml was written.
   *
   * @param addresses of the copies that have one
   */
  record Paired(
      String file, String site, String staging, String live, Map<String, String> addresses)
      implements BriefReport {}

  /**
   * Two change sets were put together.
   *
   * @param argument how a command names it
   */
  record Joined(
      String file,
      String from,
      String into,
      int changes,
      int decisions,
      @JsonIgnore String argument)
      implements BriefReport {}

  /**
   * How a change set stands after a review on the screen.
   *
   * @param argument how a command names it
   */
  record Standing(String file, int open, boolean approved, @JsonIgnore String argument)
      implements BriefReport {}

  /**
   * Statements and signatures were written.
   *
   * @param signed the names of the statements
   * @param first where the first of them is; empty if there is none
   */
  record Signatures(String folder, List<String> signed, @JsonIgnore String first)
      implements BriefReport {}

  /**
   * A change set was written down as a page.
   *
   * @param hidden how many values of personal data were left out
   * @param sealedFor for whom it is sealed, as people call them; none if it is not
   */
  record Page(
      String file, String format, String changeSet, int changes, int hidden, List<String> sealedFor)
      implements BriefReport {}

  /** Whether an apply was imported where {@code copy} is at home. */
  record Confirmed(
      String receipt, String copy, boolean ran, @JsonIgnore String at, @JsonIgnore String place)
      implements BriefReport {}

  /** What was packed for whoever helps, with the bytes of each part. */
  record Bundled(String file, Map<String, Integer> contents) implements BriefReport {}

  /**
   * A model was guessed.
   *
   * @param file where it is written; empty if it is only shown
   * @param text as a model file has it
   */
  record Guessed(String file, List<DerivedTable> tables, @JsonIgnore String text)
      implements BriefReport {}

  /**
   * A model file was checked.
   *
   * @param missing tables and columns that it names and the copy does not have
   */
  record Checked(
      String file, String model, int tables, List<String> missing, @JsonIgnore String copy)
      implements BriefReport {}

  /** A demo site was made; {@code scripts} says that it is SQL to be loaded. */
  record Demo(String folder, @JsonIgnore boolean scripts) implements BriefReport {}
}
