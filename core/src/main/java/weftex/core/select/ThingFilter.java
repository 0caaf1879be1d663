package weftex.core.select;

import java.util.List;
import java.util.Optional;
import weftex.core.change.Item;
import weftex.core.change.Trace;
import weftex.core.row.Glob;

/**
 * Which things are chosen: by what they are called, where visitors see them, who made them and when
 * they were changed. A thing must pass every list that is not empty. What a chosen thing needs that
 * is new comes along.
 *
 * @param items what they are called; empty for all
 * @param withoutItems those that are left out
 * @param paths patterns of public paths; empty for all
 * @param withoutPaths those that are left out
 * @param authors patterns of names; empty for everybody's
 * @param withoutAuthors those whose things are left out
 * @param since changed then or later, as {@code 2026-11-20T14:00:00} or the beginning of it; empty
 *     for any time
 * @param until not changed then or later; empty for any time
 */
public record ThingFilter(
    List<ItemFilter> items,
    List<ItemFilter> withoutItems,
    List<String> paths,
    List<String> withoutPaths,
    List<String> authors,
    List<String> withoutAuthors,
    String since,
    String until) {

  /** All things. */
  public static final ThingFilter ALL =
      new ThingFilter(List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), "", "");

  public ThingFilter {
    items = List.copyOf(items);
    withoutItems = List.copyOf(withoutItems);
    paths = List.copyOf(paths);
    withoutPaths = List.copyOf(withoutPaths);
    authors = List.copyOf(authors);
    withoutAuthors = List.copyOf(withoutAuthors);
  }

  /** Whether nothing is said. */
  public boolean isAll() {
    return equals(ALL);
  }

  /** Whether some things are asked for, rather than all but some. */
  public boolean picks() {
    return !items.isEmpty() || !paths.isEmpty() || !authors.isEmpty() || !since.isEmpty();
  }

  /** Whether more must be known of a thing than what it is called. */
  public boolean needTrace() {
    return !paths.isEmpty()
        || !withoutPaths.isEmpty()
        || !authors.isEmpty()
        || !withoutAuthors.isEmpty()
        || !since.isEmpty()
        || !until.isEmpty();
  }

  /**
   * Whether a thing is chosen. One of which a path, an author or a time is not known is not chosen
   * by it, nor left out by it.
   *
   * @param item empty if the model names none
   */
  public boolean accepts(Optional<Item> item, Trace trace) {
    Trace.Touch touch = trace.source().isKnown() ? trace.source() : trace.target();
    return (items.isEmpty() || isOne(items, item))
        && !isOne(withoutItems, item)
        && (paths.isEmpty() || isAt(paths, trace.path()))
        && !isAt(withoutPaths, trace.path())
        && (authors.isEmpty() || isBy(authors, touch.by()))
        && !isBy(withoutAuthors, touch.by())
        && (since.isEmpty() || isLater(touch.at(), since))
        && (until.isEmpty() || !isLater(touch.at(), until));
  }

  private static boolean isOne(List<ItemFilter> filters, Optional<Item> item) {
    return item.isPresent() && filters.stream().anyMatch(filter -> filter.accepts(item.get()));
  }

  private static boolean isBy(List<String> patterns, String name) {
    return !name.isEmpty() && patterns.stream().anyMatch(pattern -> Glob.matches(pattern, name));
  }

  /** With or without slashes at the ends. */
  private static boolean isAt(List<String> patterns, String path) {
    return !path.isEmpty()
        && patterns.stream().anyMatch(p -> Glob.matches(withoutEnds(p), withoutEnds(path)));
  }

  private static String withoutEnds(String path) {
    return path.replaceAll("^/+|/+$", "");
  }

  private static boolean isLater(String at, String than) {
    return !at.isEmpty() && at.compareTo(than) >= 0;
  }
}
