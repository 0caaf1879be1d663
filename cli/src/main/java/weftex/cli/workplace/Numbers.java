package weftex.cli.workplace;

import java.util.SortedSet;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.cli.CommandLine;
import weftex.store.Refusal;

/** Reads options that are numbers. */
public final class Numbers {
  private static final Pattern RANGE = Pattern.compile("(\\d{1,7})(?:-(\\d{1,7}))?");

  private Numbers() {}

  /**
   * A whole number from 1.
   *
   * @param otherwise what counts if the option is not given
   * @param command for the way to help
   */
  public static int positive(CommandLine line, String option, String otherwise, String command)
      throws Refusal {
    String text = line.getOptionValue(option, otherwise);
    if (!text.matches("[1-9]\\d{0,8}")) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "--" + option + " takes a whole number from 1, not '" + text + "'. Nothing was changed.",
          "See 'weftex " + command + " --help'.");
    }
    return Integer.parseInt(text);
  }

  /** The numbers of a list such as {@code 3,7-9}. */
  public static SortedSet<Integer> list(CommandLine line, String option) throws Refusal {
    SortedSet<Integer> numbers = new TreeSet<>();
    for (String part : line.getOptionValue(option).split(",")) {
      Matcher range = RANGE.matcher(part.strip());
      if (!range.matches()) {
        throw new Refusal(
            Refusal.Kind.WRONG_INPUT,
            "'" + part.strip() + "' after --" + option + " is no number. Nothing was changed.",
            "Write numbers and ranges, such as --" + option + " 3,7-9.");
      }
      int first = Integer.parseInt(range.group(1));
      int last = range.group(2) == null ? first : Integer.parseInt(range.group(2));
      for (int number = first; number <= last; number++) {
        numbers.add(number);
      }
    }
    return numbers;
  }
}
