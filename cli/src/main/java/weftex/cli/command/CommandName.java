package weftex.cli.command;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import weftex.cli.applying.ApplyCommand;
import weftex.cli.applying.HistoryCommand;
import weftex.cli.applying.RestoreCommand;
import weftex.cli.applying.SaveCommand;
import weftex.cli.applying.TidyCommand;
import weftex.cli.applying.UndoCommand;
import weftex.cli.drafting.CompareCommand;
import weftex.cli.drafting.DraftCommand;
import weftex.cli.drafting.MarkCommand;
import weftex.cli.reviewing.ReportCommand;
import weftex.cli.reviewing.ReviewCommand;
import weftex.cli.workplace.Command;

/** The commands by name, in the order of the work. */
public enum CommandName {
  DEMO("build a made-up site in a folder and walk through the whole job", DemoCommand::new),
  PAIR("write weftex.yaml: where the two copies of a site are", PairCommand::new),
  CHECK("connect to both copies and say what is there and what could go wrong", CheckCommand::new),
  MARK("record the base: the state both copies share", MarkCommand::new),
  COMPARE("show what changed on either copy since the base, and conflicts", CompareCommand::new),
  DRAFT("write a change set of chosen tables and rows", DraftCommand::new),
  REVIEW("show a change set, decide, approve", ReviewCommand::new),
  REPORT("write a change set down as a page for people without a terminal", ReportCommand::new),
  APPLY("apply an approved change set in one transaction", ApplyCommand::new),
  UNDO("take an applied change set back, keeping what came in since", UndoCommand::new),
  HISTORY("list what was applied and undone, by whom, when", HistoryCommand::new),
  SAVE("write a copy to a file of plain SQL, from which it can be restored", SaveCommand::new),
  RESTORE("put a saved copy back in its place, and set the present one aside", RestoreCommand::new),
  TIDY("remove old drafts, receipts, bases and restore points that nobody needs", TidyCommand::new),
  SCAN("look through one copy for leftovers, broken references and the like", ScanCommand::new),
  MODEL("show what the site model says, or guess one", ModelCommand::new);

  private final String summary;
  private final Supplier<Command> create;

  CommandName(String summary, Supplier<Command> create) {
    this.summary = summary;
    this.create = create;
  }

  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }

  public String summary() {
    return summary;
  }

  public Command create() {
    return create.get();
  }

  /** The command of a word, or empty. */
  public static Optional<CommandName> of(String word) {
    return Arrays.stream(values()).filter(name -> name.word().equals(word)).findFirst();
  }

  public static List<String> words() {
    return Arrays.stream(values()).map(CommandName::word).toList();
  }
}
