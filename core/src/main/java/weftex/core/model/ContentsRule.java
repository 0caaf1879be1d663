package weftex.core.model;

import java.util.List;
import java.util.Map;
import weftex.core.row.Glob;

/**
 * What the values of a table hold besides themselves.
 *
 * @param inside what is inside the values of a column
 * @param files columns that name files of the copy
 * @param prefixed columns of names that may begin with the copy's own prefix of table names
 */
public record ContentsRule(
    Map<String, List<InsideRule>> inside, List<FileRule> files, Map<String, PrefixRule> prefixed) {
  static final ContentsRule NONE = new ContentsRule(null, null, null);

  public ContentsRule {
    inside = Joined.given(inside);
    files = Joined.given(files);
    prefixed = Joined.given(prefixed);
  }

  /**
   * Names that may begin with the copy's own prefix of table names, which is another one on the
   * other copy.
   *
   * @param names what stands behind the prefix in names that always have it; {@code *} and {@code
   *     ?} match
   * @param except names that begin so on every copy
   */
  public record PrefixRule(List<String> names, List<String> except) {
    public PrefixRule {
      names = Joined.given(names);
      except = Joined.given(except);
    }

    /** A name of one copy as the other has it. */
    public String mapped(String name, String from, String into) {
      if (!name.startsWith(from)) {
        return name;
      }
      String rest = name.substring(from.length());
      boolean always = names.stream().anyMatch(pattern -> Glob.matches(pattern, rest));
      return always || except.stream().noneMatch(pattern -> Glob.matches(pattern, name))
          ? into + rest
          : name;
    }
  }

  ContentsRule extending(ContentsRule more) {
    return new ContentsRule(
        Joined.maps(inside, more.inside, Joined::lists),
        Joined.lists(files, more.files),
        Joined.maps(prefixed, more.prefixed));
  }
}
