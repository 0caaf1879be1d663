package weftex.store.compare;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weftex.core.change.Alike;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Review;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.DecisionLine;
import weftex.core.decide.CarriedDecisions;
import weftex.core.decide.Consequences;
import weftex.core.decide.RuleBook;
import weftex.core.decide.StandingRule;
import weftex.core.file.FilePlan;
import weftex.core.plan.Plan;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Decision;
import weftex.store.seal.Receivers;
import weftex.store.seal.SealedFile;
import weftex.store.state.Files0600;

/** Writes a plan into a change-set file. The file appears under its name only when it is whole. */
public final class Drafting {
  private Drafting() {}

  /**
   * What a draft is called and what is decided in it from the start.
   *
   * @param site the site's name
   * @param at the time of drafting, as an ISO 8601 instant
   * @param tool the version that drafts
   * @param selection what was chosen, in the words of the options
   * @param rules standing rules
   * @param carried decisions of an earlier draft; empty if there was none
   * @param receivers for whom it is sealed
   * @param everything whether the target's side stands in every conflict, without a person
   */
  public record Terms(
      String site,
      String at,
      String tool,
      Map<String, List<String>> selection,
      List<StandingRule> rules,
      Optional<CarriedDecisions> carried,
      Receivers receivers,
      boolean everything) {}

  /**
   * Writes.
   *
   * @param files those that go with the plan
   * @return what became of the decisions of an earlier draft, and how the changes stand
   */
  public static Written write(
      Path file, ComparisonRun run, Plan plan, FilePlan.Files files, Terms terms)
      throws IOException {
    Written[] written = new Written[1];
    whole(file, terms.receivers(), out -> written[0] = write(out, run, plan, files, terms));
    return written[0];
  }

  /** Writes the changes of a change set, in their order. */
  public interface Changes {
    void writeTo(ChangeSetWriter writer) throws IOException;
  }

  /**
   * Writes a change set that comes from nowhere near a database.
   *
   * @return how many changes it has
   */
  public static int write(
      Path file, ChangeSetHeader header, List<Decision> decisions, Changes changes)
      throws IOException {
    int[] count = new int[1];
    whole(
        file,
        Receivers.of(header.receivers()),
        out -> {
          ChangeSetWriter writer = new ChangeSetWriter(out, header);
          changes.writeTo(writer);
          writer.finish();
          count[0] = writer.changes();
          for (Decision decision : decisions) {
            out.write(DecisionLine.of(decision));
          }
        });
    return count[0];
  }

  private static void whole(Path file, Receivers receivers, Files0600.Body body)
      throws IOException {
    Path folder = file.toAbsolutePath().getParent();
    if (!Files.isDirectory(folder)) {
      Files0600.createFolder(folder);
    }
    Files0600.whole(
        file,
        out -> {
          if (receivers.isNobody()) {
            body.writeTo(out);
            return;
          }
          try (OutputStream sealed = SealedFile.writing(out, SealedFile.CHANGE_SET, receivers)) {
            body.writeTo(sealed);
          }
        });
  }

  /**
   * What was written.
   *
   * @param review with the decisions that stand in the draft
   * @param ruled how many changes a rule decided
   * @param kept changes in which a draft of everything keeps the target's side, or leaves them out
   * @param carried what became of the decisions of an earlier draft
   */
  public record Written(
      Review review, int ruled, List<Integer> kept, CarriedDecisions.Outcome carried) {}

  private static Written write(
      OutputStream out, ComparisonRun run, Plan plan, FilePlan.Files files, Terms terms)
      throws IOException {
    ChangeSetWriter writer = new ChangeSetWriter(out, DraftHeader.header(run, plan, terms));
    Review review = new Review();
    RuleBook rules = new RuleBook(terms.rules(), run.source().name(), review);
    for (SchemaChange change : plan.schema()) {
      writer.write(change);
      review.add(change);
      rules.see(change);
      terms.carried().ifPresent(carried -> carried.fresh(change));
    }
    writeRows(plan, files, terms, writer, review, rules);
    for (Alike file : files.alike()) {
      writer.write(file);
    }
    writer.finish();
    List<Decision> decided = new ArrayList<>(rules.decisions(terms.at()));
    int ruled = decided.stream().mapToInt(decision -> decision.changes().size()).sum();
    CarriedDecisions.Outcome carried =
        terms
            .carried()
            .map(decisions -> decisions.outcome(review))
            .orElse(new CarriedDecisions.Outcome(List.of(), List.of()));
    decided.addAll(carried.carried());
    decided.forEach(review::add);
    List<Decision> keeping = terms.everything() ? keepAll(review, terms.at()) : List.of();
    decided.addAll(keeping);
    for (Decision decision : decided) {
      out.write(DecisionLine.of(decision));
    }
    List<Integer> kept =
        keeping.stream().flatMap(decision -> decision.changes().stream()).sorted().toList();
    return new Written(review, ruled, kept, carried);
  }

  private static void writeRows(
      Plan plan,
      FilePlan.Files files,
      Terms terms,
      ChangeSetWriter writer,
      Review review,
      RuleBook rules)
      throws IOException {
    Plan.ChangeSink sink =
        change -> {
          writer.write(change);
          review.add(change);
          rules.see(change);
          if (terms.carried().isPresent()) {
            terms.carried().get().fresh(change);
          }
        };
    plan.forEach(sink);
    for (RowChange change : files.changes()) {
      sink.accept(change);
    }
    plan.forEachAlike(writer::write);
  }

  /** The target's side for all that is open, and what follows from it. */
  private static List<Decision> keepAll(Review review, String at) {
    List<Integer> open =
        review.ids().stream()
            .filter(id -> review.standing(id) == Review.Standing.OPEN)
            .filter(id -> review.refusal(id, Optional.empty(), Answer.TARGET).isEmpty())
            .toList();
    List<Decision> decisions = new ArrayList<>();
    if (!open.isEmpty()) {
      decisions.add(
          Decision.of(
              open, Optional.empty(), Answer.TARGET, Decision.BY_EVERYTHING, at, "keeps its side"));
      decisions.forEach(review::add);
    }
    decisions.addAll(Consequences.of(review, Answer.TARGET, Set.of(), Decision.BY_EVERYTHING, at));
    return decisions;
  }
}
