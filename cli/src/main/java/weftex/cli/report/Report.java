package weftex.cli.report;

import java.util.List;
import weftex.cli.page.WordMarks;

/**
 * What a report says, in words that are ready to be read.
 *
 * @param counts how many changes stand how
 * @param bars one for each kind of thing
 * @param open things with a change that needs a decision
 * @param groups all other things, by kind
 */
public record Report(
    Head head, List<Count> counts, List<Bar> bars, List<Thing> open, List<Group> groups) {

  /**
   * Which change set it is about.
   *
   * @param target what will be written to
   * @param base what both copies once shared; empty if there was none
   * @param sha256 of the whole file, which an approval is about
   * @param approvals who approved and when; {@code void} if something was decided after it
   */
  public record Head(
      String site,
      String from,
      String into,
      String target,
      String base,
      String drafted,
      String sha256,
      List<String> approvals) {

    /** Such as {@code staging → live}. */
    public String direction() {
      return from + " → " + into;
    }

    public boolean hasBase() {
      return !base.isEmpty();
    }
  }

  public boolean hasOpen() {
    return !open.isEmpty();
  }

  public int openCount() {
    return open.size();
  }

  /** How many changes stand in one way. */
  public record Count(String standing, long changes) {}

  /** How many things of a kind are added, updated and removed, with their widths in percent. */
  public record Bar(String kind, Share added, Share updated, Share removed, long things) {}

  /** A part of a bar. */
  public record Share(long things, double from, double width) {}

  /** Things of a kind. */
  public record Group(String kind, List<Thing> things) {
    public int size() {
      return things.size();
    }
  }

  /**
   * A thing as a person sees it.
   *
   * @param anchor by which it can be linked to
   * @param does {@code added}, {@code updated}, {@code removed} or {@code created}
   */
  public record Thing(
      String anchor, String kind, String name, String does, String standing, List<Change> changes) {
    public boolean isOpen() {
      return standing.equals("decide");
    }
  }

  /**
   * One change of a row, or a statement.
   *
   * @param title such as {@code update pages 4}
   * @param cells the columns that change, before and after
   * @param questions conflicts
   * @param notes what else there is to know
   * @param statements what is made, for a new table or column
   * @param views of pictures, before and after
   */
  public record Change(
      int number,
      String title,
      String standing,
      List<Cell> cells,
      List<Question> questions,
      List<String> notes,
      List<String> statements,
      List<View> views) {
    public boolean hasViews() {
      return !views.isEmpty();
    }

    public boolean hasCells() {
      return !cells.isEmpty();
    }

    /** Whether the row was there before. */
    public boolean hasBefore() {
      return cells.stream().anyMatch(cell -> !cell.before().isEmpty());
    }

    /** Whether the row is there afterwards. */
    public boolean hasAfter() {
      return cells.stream().anyMatch(cell -> !cell.after().isEmpty());
    }
  }

  /**
   * A small view of a picture.
   *
   * @param address which holds all of it
   */
  public record View(String label, String address) {}

  /** A column that changes. */
  public record Cell(String column, List<WordMarks.Piece> before, List<WordMarks.Piece> after) {}

  /**
   * A conflict.
   *
   * @param answers what can be said, and what that would do; none if it is decided
   * @param sides base, source and target by column; none if it is about the whole row
   */
  public record Question(String kind, String reason, List<String> answers, List<Sides> sides) {
    public boolean hasAnswers() {
      return !answers.isEmpty();
    }

    public boolean hasSides() {
      return !sides.isEmpty();
    }
  }

  /** The three sides of a column. */
  public record Sides(
      String column,
      List<WordMarks.Piece> base,
      List<WordMarks.Piece> source,
      List<WordMarks.Piece> target) {}
}
