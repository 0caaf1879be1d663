package weftex.cli.config;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What the site wants to have run around an apply or undo, such as what puts up a holding page.
 *
 * @param byMoment commands in their order, each a program and its arguments; no shell reads them
 * @param limit how long one may take
 * @param secrets variables of the environment that hold passwords: the commands do not get them
 */
public record SiteCommands(
    Map<Moment, List<List<String>>> byMoment, Duration limit, Set<String> secrets) {

  /** When commands are run. */
  public enum Moment {
    BEFORE_APPLY("before-apply"),
    /** Whatever became of the apply, once those before it were begun. */
    AFTER_APPLY("after-apply"),
    AFTER_UNDO("after-undo"),
    /** After an apply or undo that did not do what it was to do. */
    ON_FAILURE("on-failure");

    private final String key;

    Moment(String key) {
      this.key = key;
    }

    /** As weftex.yaml calls it. */
    public String key() {
      return key;
    }
  }

  private static final int SECONDS = 60;

  /**
   * What weftex.yaml says.
   *
   * @param folder the folder of weftex.yaml, from which the paths of programs are meant
   * @throws IllegalArgumentException with what is wrong, as a sentence without its end
   */
  static SiteCommands of(PairFile said, Path folder) {
    PairFile.CommandsEntry entry =
        said.applying().commands() == null
            ? new PairFile.CommandsEntry(null, null, null, null, null)
            : said.applying().commands();
    Map<Moment, List<List<String>>> byMoment = new EnumMap<>(Moment.class);
    byMoment.put(Moment.BEFORE_APPLY, commands(Moment.BEFORE_APPLY, entry.beforeApply(), folder));
    byMoment.put(Moment.AFTER_APPLY, commands(Moment.AFTER_APPLY, entry.afterApply(), folder));
    byMoment.put(Moment.AFTER_UNDO, commands(Moment.AFTER_UNDO, entry.afterUndo(), folder));
    byMoment.put(Moment.ON_FAILURE, commands(Moment.ON_FAILURE, entry.onFailure(), folder));
    int seconds = entry.seconds() == null ? SECONDS : entry.seconds();
    if (seconds < 1) {
      throw new IllegalArgumentException("'seconds' of 'commands' must be 1 or more");
    }
    Set<String> secrets = said.passwordVariables();
    return new SiteCommands(byMoment, Duration.ofSeconds(seconds), secrets);
  }

  private static List<List<String>> commands(Moment moment, List<List<String>> said, Path folder) {
    List<List<String>> commands = new ArrayList<>();
    for (List<String> words : said == null ? List.<List<String>>of() : said) {
      if (words == null || words.isEmpty() || words.contains(null) || words.get(0).isBlank()) {
        throw new IllegalArgumentException(
            "a command of '" + moment.key() + "' is a list of words, the program first");
      }
      List<String> command = new ArrayList<>(words);
      if (words.get(0).contains("/")) {
        command.set(0, folder.resolve(words.get(0)).normalize().toString());
      }
      commands.add(List.copyOf(command));
    }
    return List.copyOf(commands);
  }

  public SiteCommands {
    byMoment = Map.copyOf(byMoment);
    secrets = Set.copyOf(secrets);
  }

  /** The commands of a moment; none if nobody wants any. */
  public List<List<String>> of(Moment moment) {
    return byMoment.getOrDefault(moment, List.of());
  }
}
