package weftex.cli.session;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** What is told of an unexpected failure where no value of the site may be told. */
public final class FailureTrace {
  /** The version, the class of a failure or of its cause, a place in the program. */
  private static final Pattern FAILED =
      Pattern.compile(
          "weftex [0-9.]+|\\s+at \\S+|\\s*\\.\\.\\. \\d+ more|\\s*(?:Caused by: |Suppressed: )?(?:[a-z]\\w*\\.)+[A-Z][\\w$]*");

  private FailureTrace() {}

  /** Where it failed, and in what; a message may quote a value of the site. */
  public static String withoutMessages(String trace) {
    return trace
        .lines()
        .map(FAILED::matcher)
        .filter(Matcher::lookingAt)
        .map(Matcher::group)
        .collect(Collectors.joining("\n", "", "\n"));
  }
}
