package weftex.core.model;

/** What a column is that is not like others. */
public enum ColumnRule {
  /** A time of change: the newer of both counts, and alone it is no change. */
  NEWER,
  /** A lock, a cache, the last editor: every copy has its own. */
  IGNORED,
  /** Numbers that are those of no row, whatever they look like. */
  PLAIN,
  /** A name that gets a number at its end where two things of one name stay two. */
  NUMBERED
}
