package weftex.cli.page;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.core.change.Action;
import weftex.core.change.Conflict;
import weftex.core.change.RowChange;
import weftex.core.change.Trace;
import weftex.core.signoff.Answer;

/** Says what a conflict is about, and what each answer does, for somebody who owns the site. */
public final class Explained {
  private static final int PLACES_NAMED = 5;

  private final String from;
  private final String into;
  private final AnswerWords answered;

  /**
   * @param from the copy that the changes come from
   * @param into the copy that receives them
   */
  public Explained(String from, String into) {
    this.from = from;
    this.into = into;
    this.answered = new AnswerWords(from, into);
  }

  /** The conflicts of a change, of which those that would be told alike are told once. */
  public List<Conflict> told(RowChange change) {
    Map<String, Conflict> told = new LinkedHashMap<>();
    for (Conflict conflict : change.conflicts()) {
      told.putIfAbsent(conflict.kind() + sentence(change, conflict), conflict);
    }
    return List.copyOf(told.values());
  }

  /** What is in conflict, as a sentence. */
  public String sentence(RowChange change, Conflict conflict) {
    String thing = Visible.text(change.thing().words());
    return switch (conflict.kind()) {
      case BOTH_EDITED ->
          "Both copies edited " + columns(conflict) + " of " + thing + rest(conflict);
      case BOTH_ADDED -> "Both copies added " + thing + ", each in its own way" + rest(conflict);
      case EDITED_GONE -> from + " edited " + thing + ", and " + into + " removed it.";
      case GONE_EDITED -> from + " removed " + thing + ", and " + into + " edited it since.";
      case GONE_IN_USE ->
          hangers(change)
              .map(rows -> into + " has " + rows + " on " + thing + ", which " + from + " removes.")
              .orElseGet(() -> sentence(conflict.reason()));
      case TAKEN, MISSING_PARENT, NO_BASE, UNKNOWN_TABLE -> sentence(conflict.reason());
    };
  }

  private static String sentence(String reason) {
    String text = Visible.text(reason);
    String end = text.endsWith(".") ? "" : ".";
    return text.isEmpty() ? "" : Character.toUpperCase(text.charAt(0)) + text.substring(1) + end;
  }

  /** Where inside it both clash, if everything else in it is merged. */
  private static String rest(Conflict conflict) {
    List<String> places = conflict.places().stream().filter(place -> !place.isEmpty()).toList();
    if (places.isEmpty()) {
      return ".";
    }
    String named =
        places.stream()
            .limit(PLACES_NAMED)
            .map(place -> "'" + Visible.text(place) + "'")
            .collect(Collectors.joining(", "));
    int more = places.size() - PLACES_NAMED;
    return ", at: "
        + named
        + (more > 0 ? " and " + more + (more == 1 ? " other place" : " other places") : "")
        + ". Everything else in it is merged.";
  }

  private static String columns(Conflict conflict) {
    return conflict.columns().isEmpty() ? "it" : String.join(", ", conflict.columns());
  }

  static Optional<String> hangers(RowChange change) {
    return change.hangers().entrySet().stream()
        .filter(hanger -> hanger.getValue() > 0)
        .map(hanger -> hanger.getValue() + " " + rows(hanger.getKey().table(), hanger.getValue()))
        .collect(
            Collectors.collectingAndThen(
                Collectors.joining(" and "), s -> s.isEmpty() ? Optional.empty() : Optional.of(s)));
  }

  /** What rows of a table are called: {@code comments}, {@code menu entry}. */
  private static String rows(String table, long count) {
    String words = table.replace('_', ' ');
    if (count != 1 || !words.endsWith("s") || words.endsWith("ss")) {
      return count == 1 ? "row of " + table : words;
    }
    return words.endsWith("ies")
        ? words.substring(0, words.length() - 3) + "y"
        : words.substring(0, words.length() - 1);
  }

  /** Who worked on it when, on either side, and what a worked-out base says; empty if nothing. */
  public Optional<String> who(Trace trace) {
    List<String> sides = new ArrayList<>();
    side(from, trace.source()).ifPresent(sides::add);
    side(into, trace.target()).ifPresent(sides::add);
    if (!trace.evidence().isEmpty()) {
      sides.add("no base was recorded: " + Visible.text(trace.evidence()));
    }
    return sides.isEmpty() ? Optional.empty() : Optional.of(String.join("; ", sides));
  }

  private static Optional<String> side(String copy, Trace.Touch touch) {
    if (!touch.isKnown()) {
      return Optional.empty();
    }
    String by = touch.by().isEmpty() ? "" : " by " + Visible.text(touch.by());
    String at =
        touch.at().isEmpty()
            ? ""
            : ", last changed "
                + touch.at().substring(0, Math.min(16, touch.at().length())).replace('T', ' ');
    return Optional.of(copy + ":" + (by.isEmpty() ? at.substring(1) : by + at));
  }

  /** What each answer that is possible would do, in the order in which they are offered. */
  public Map<Answer, String> answers(RowChange change, Conflict conflict) {
    Map<Answer, String> answers = new LinkedHashMap<>();
    String columns = columns(conflict);
    boolean whole = change.action() != Action.UPDATE;
    answered.put(change, conflict, answers, columns, whole);
    if (conflict.binding()) {
      answers.remove(Answer.SOURCE);
    }
    answers.put(Answer.SKIP, "the whole change is left out");
    return answers;
  }

  /** The columns of a change that a conflict speaks about, and can show on all sides. */
  public static Set<String> shown(RowChange change, Conflict conflict) {
    return conflict.columns().stream()
        .filter(c -> conflict.base().containsKey(c) || change.action() == Action.UPDATE)
        .collect(Collectors.toCollection(java.util.LinkedHashSet::new));
  }
}
