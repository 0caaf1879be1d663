package weftex.cli.reviewing;

import org.apache.commons.cli.CommandLine;
import weftex.core.change.Review;
import weftex.store.Refusal;

/** The one change that is to be shown. */
final class OneChange {

  private OneChange() {}

  static Integer only(CommandLine line, Review review) throws Refusal {
    if (!line.hasOption("change")) {
      return null;
    }
    String text = line.getOptionValue("change");
    boolean known = text.matches("\\d{1,9}") && review.ids().contains(Integer.parseInt(text));
    if (!known) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "There is no change '"
              + text
              + "'; the change set has 1 to "
              + review.ids().size()
              + ". Nothing was changed.",
          "'weftex review' lists them.");
    }
    return Integer.parseInt(text);
  }
}
