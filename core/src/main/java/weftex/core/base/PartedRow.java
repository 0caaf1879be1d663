package weftex.core.base;

import java.util.List;
import weftex.core.match.BaseEvidence.Weight;
import weftex.core.match.BaseEvidence.Why;
import weftex.core.row.Row;
import weftex.core.row.Value;
import weftex.core.site.TableModel;

/**
 * What a row on which two copies differ was before they parted.
 *
 * @param base the row then, in the first copy's terms; absent if it was not there, or if both added
 *     one under its key
 * @param why what that stands on
 */
public record PartedRow(Row base, Why why) {

  /**
   * One copy's side of a row.
   *
   * @param copy its name
   * @param row in the first copy's terms; absent if it has none
   * @param owner what is known of the row that it is a part of, on that copy
   */
  public record Side(String copy, Row row, Owner owner) {

    List<Value> values() {
      return row.values();
    }
  }

  /** What is known of the row that another is a part of. */
  public enum Owner {
    /** It is a part of nothing, or that was there when the copies parted. */
    KNOWN,
    /** The copy added it after the copies parted. */
    NEW,
    /** The copy does not have it, or not what else the row refers to. */
    GONE,
    /** It is a question itself. */
    ASKED
  }

  /**
   * Works it out: by numbers that were given out since, by times of change, and by what became of
   * what it is a part of. Where nothing speaks for either copy, it is a question: then the second
   * copy's row counts as what was before, so that the first copy's side is what would be made.
   */
  public static PartedRow of(TableModel model, Side one, Side other, Parting parting) {
    if (one.row().isPresent() && other.row().isPresent()) {
      return both(model, one, other, parting);
    }
    Side there = one.row().isPresent() ? one : other;
    Side gone = one.row().isPresent() ? other : one;
    if (there.owner() == Owner.ASKED) {
      return new PartedRow(
          there == one ? Row.ABSENT : there.row(),
          doubt("what it belongs to is a question itself"));
    }
    if (there.owner() == Owner.NEW) {
      return new PartedRow(
          Row.ABSENT,
          sure("what it belongs to was added on " + there.copy() + " after the copies parted"));
    }
    if (parting.isAddedSince(model, there.values())) {
      return new PartedRow(
          Row.ABSENT, sure("it was added on " + there.copy() + " after the copies parted"));
    }
    if (gone.owner() == Owner.GONE) {
      return new PartedRow(
          there.row(), new Why(gone.copy() + " removed what it belongs to", Weight.WITH_ITS_OWNER));
    }
    if (model.table().isNumbered()) {
      return new PartedRow(
          there.row(),
          sure("it was there before the copies parted, so " + gone.copy() + " removed it"));
    }
    // What only the second copy has is asked about as a removal, or it would never be asked.
    return new PartedRow(
        there == one ? Row.ABSENT : there.row(),
        doubt(
            "nothing says whether "
                + there.copy()
                + " added it or "
                + gone.copy()
                + " removed it"));
  }

  private static PartedRow both(TableModel model, Side one, Side other, Parting parting) {
    if (one.owner() == Owner.NEW && other.owner() == Owner.NEW) {
      return apart();
    }
    if (parting.isAddedSince(model, one.values()) && parting.isAddedSince(model, other.values())) {
      int differing = Parting.differing(model, one.values(), other.values());
      if (!Parting.isSame(model, one.values(), other.values())) {
        return differing > Parting.MOST_OF_ONE_THING
                || Parting.areElsewhere(model, one.values(), other.values())
            ? apart()
            : new PartedRow(
                Row.ABSENT, doubt("both copies seem to have given its ID out after they parted"));
      }
    }
    boolean byOne = parting.isChangedSince(model, one.values());
    boolean byOther = parting.isChangedSince(model, other.values());
    if (byOne != byOther) {
      Side editor = byOne ? one : other;
      return new PartedRow(
          byOne ? other.row() : one.row(),
          sure(
              editor.copy()
                  + " changed it on "
                  + Parting.changed(model, editor.values()).orElse("")
                  + ", after the copies parted"));
    }
    return new PartedRow(
        other.row(),
        doubt(
            byOne
                ? "both copies changed it after they parted"
                : "nothing says which copy changed it"));
  }

  /** Two rows of one number that have nothing to do with each other. */
  public static PartedRow apart() {
    return new PartedRow(Row.ABSENT, sure("each copy gave its ID out after they parted"));
  }

  /**
   * Whether nobody can say if the two copies' rows are one thing, or if a row was there. Of rows
   * that are one thing, only the editor is in question.
   */
  public boolean isUncertain(TableModel model, Row one, Row other) {
    boolean oneThing =
        one.isPresent() && other.isPresent() && Parting.isSame(model, one.values(), other.values());
    return why.weight() == Weight.QUESTION && !oneThing;
  }

  /** Whether each copy added a row of its own under this key. */
  public boolean isApart() {
    return this.equals(apart());
  }

  private static Why sure(String words) {
    return new Why(words, Weight.EVIDENCE);
  }

  private static Why doubt(String words) {
    return new Why(words, Weight.QUESTION);
  }
}
