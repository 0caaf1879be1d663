package weftex.core.site;

/** How a column is merged that is not merged like others. */
public enum ColumnRule {
  /** A time of change: the newer of both counts, and alone it is no change. */
  NEWER,
  /** A lock, a cache, the last editor: every copy has its own. */
  IGNORED
}
