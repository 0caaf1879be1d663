package weftex.core.yaml;

import java.util.Optional;

/** What is wrong in a YAML text, and where. */
public final class YamlProblem extends Exception {
  private static final long serialVersionUID = 1;

  private final int line;
  private final String what;
  private final String suggestion;

  /**
   * @param line counted from 1, or 0 if the problem has no one place
   * @param what one clause without a full stop
   * @param suggestion the nearest known word, or an empty string
   */
  public YamlProblem(int line, String what, String suggestion) {
    super(what);
    this.line = line;
    this.what = what;
    this.suggestion = suggestion;
  }

  public int line() {
    return line;
  }

  public String what() {
    return what;
  }

  public Optional<String> suggestion() {
    return suggestion.isEmpty() ? Optional.empty() : Optional.of(suggestion);
  }

  /** The problem as one clause: {@code line 4: unknown key 'prefx'; did you mean 'prefix'?} */
  public String sentence() {
    String place = line > 0 ? "line " + line + ": " : "";
    return place + what + suggestion().map(word -> "; did you mean '" + word + "'?").orElse("");
  }
}
