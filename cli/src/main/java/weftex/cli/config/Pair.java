package weftex.cli.config;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import weftex.core.address.AddressBook;
import weftex.core.decide.StandingRule;
import weftex.core.file.FileChoice;
import weftex.core.model.SiteModel;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.tidy.Leftovers;

/**
 * What weftex.yaml says, ready for use.
 *
 * @param folder where it lies
 * @param people who is who on the copies, and what of them is made up on staging
 * @param applying what is asked for around an apply
 * @param standing what is said once for all
 * @param sites {@code all} or the numbers of sites under one roof; empty for one site alone
 */
public record Pair(
    Path folder,
    String site,
    SiteModel model,
    CopySpec staging,
    CopySpec live,
    AddressBook addresses,
    People people,
    Applying applying,
    Standing standing,
    List<String> sites) {

  /**
   * What is said once for all.
   *
   * @param selections by name
   * @param rules in their order
   * @param files which files travel
   * @param sealed whether what is kept is encrypted, and for whom
   */
  public record Standing(
      Map<String, SelectionWords> selections,
      List<StandingRule> rules,
      FileChoice files,
      SealedEntry sealed) {}

  /** Whether what is kept is encrypted, and for whom. */
  public SealedEntry sealed() {
    return standing.sealed();
  }

  /** Which files travel. */
  public FileChoice files() {
    return standing.files();
  }

  /** Selections by name. */
  public Map<String, SelectionWords> selections() {
    return standing.selections();
  }

  /** Decisions that are made once for all; of several that fit the first counts. */
  public List<StandingRule> rules() {
    return standing.rules();
  }

  /**
   * What is asked for around an apply.
   *
   * @param approvals who must have approved it
   * @param commands what is run before and after
   * @param restorePoints whether live is saved before, and what stays of that
   * @param tidy how long drafts, receipts and earlier bases stay
   */
  public record Applying(
      Approving approvals,
      SiteCommands commands,
      RestorePointRules restorePoints,
      Leftovers.Limits tidy) {}

  /**
   * The people of the copies.
   *
   * @param same names of people on staging, and who they are on live
   * @param areMasked whether personal data on staging are made up
   * @param masked columns of such data, by table, where the file names them
   * @param spared patterns of personal values; whose row has one stays as it is
   */
  public record People(
      Map<String, String> same,
      boolean areMasked,
      Map<String, List<String>> masked,
      List<String> spared) {
    public People {
      same = Map.copyOf(same);
      masked = Map.copyOf(masked);
      spared = List.copyOf(spared);
    }
  }

  /** Who must have approved what is applied. */
  public Approving approvals() {
    return applying.approvals();
  }

  /** What the site wants to have run around an apply or undo. */
  public SiteCommands commands() {
    return applying.commands();
  }

  /** What is said of restore points. */
  public RestorePointRules restorePoints() {
    return applying.restorePoints();
  }

  /** Who on the receiving copy is the same person as somebody on the other. */
  public Map<String, String> people(String into) {
    if (into.equals("live")) {
      return people.same();
    }
    Map<String, String> back = new TreeMap<>();
    people.same().forEach((staging, live) -> back.putIfAbsent(live, staging));
    return back;
  }

  /** The copy of a name, which is {@code staging} or {@code live}. */
  public CopySpec copy(String name) throws Refusal {
    return switch (name) {
      case "staging" -> staging;
      case "live" -> live;
      default ->
          throw new Refusal(
              Refusal.Kind.WRONG_INPUT,
              "There is no copy '" + name + "'. Nothing was changed.",
              "Say 'staging' or 'live'.");
    };
  }

  /** The copy that is not the one of this name. */
  public CopySpec other(String name) throws Refusal {
    return copy(name).name().equals("live") ? staging : live;
  }
}
