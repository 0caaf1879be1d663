package weftex.store.database;

import java.util.Collection;
import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What is in a copy.
 *
 * @param server the server's name and version
 * @param tables by name without prefix, in the order of names
 * @param otherTables how many tables there are whose names do not begin with the prefix
 * @param notHandled what looks like a table and is not compared, by name without prefix: what it is
 */
public record Catalog(
    String server,
    Map<String, CatalogTable> tables,
    int otherTables,
    Map<String, String> notHandled) {

  /** The table in which Weftex keeps what it applied; no part of the site. */
  public static final String LEDGER = "weftex_ledger";

  /** What the names of tables begin with that are loaded, and not yet in their place. */
  public static final String NEW = "weftex_new_";

  /** What the names of tables begin with that were set aside. */
  public static final String ASIDE = "weftex_aside_";

  private static final Pattern NUMBERED = Pattern.compile("(\\d+)_(.+)");

  /** A set of tables of another site, among what is not handled. */
  private static final Pattern SET = Pattern.compile("(\\d{1,9})_\\*");

  /** Fewer tables with a number before them may be called so for another reason. */
  private static final int FEWEST_OF_A_SET = 3;

  public Catalog {
    tables = Collections.unmodifiableMap(new TreeMap<>(tables));
    notHandled = Collections.unmodifiableMap(new TreeMap<>(notHandled));
  }

  /**
   * The same, without tables that are another site's under one roof: sets of tables that have a
   * number before the names of this site's own, as in {@code 2_posts} beside {@code posts}.
   */
  public Catalog ofOneSite() {
    Map<String, Integer> sets = new TreeMap<>();
    for (String name : tables.keySet()) {
      Matcher numbered = NUMBERED.matcher(name);
      if (numbered.matches() && tables.containsKey(numbered.group(2))) {
        sets.merge(numbered.group(1), 1, Integer::sum);
      }
    }
    sets.values().removeIf(counterparts -> counterparts < FEWEST_OF_A_SET);
    if (sets.isEmpty()) {
      return this;
    }
    Map<String, CatalogTable> own = new TreeMap<>();
    Map<String, Integer> others = new TreeMap<>();
    tables.forEach(
        (name, table) -> {
          Matcher numbered = NUMBERED.matcher(name);
          if (numbered.matches() && sets.containsKey(numbered.group(1))) {
            others.merge(numbered.group(1), 1, Integer::sum);
          } else {
            own.put(name, table);
          }
        });
    Map<String, String> left = new TreeMap<>(notHandled);
    others.forEach(
        (number, count) ->
            left.put(
                number + "_*", "another site's set of " + count + " tables under this prefix"));
    return new Catalog(
        server,
        own,
        otherTables + others.values().stream().mapToInt(Integer::intValue).sum(),
        left);
  }

  /** The numbers of the other sites under this roof, as {@link #ofOneSite} found them. */
  public SortedSet<Integer> otherSites() {
    SortedSet<Integer> numbers = new TreeSet<>();
    for (String name : notHandled.keySet()) {
      Matcher set = SET.matcher(name);
      if (set.matches()) {
        numbers.add(Integer.valueOf(set.group(1)));
      }
    }
    return numbers;
  }

  /** The same, with some tables as they will be. */
  public Catalog with(Map<String, CatalogTable> grown) {
    Map<String, CatalogTable> all = new TreeMap<>(tables);
    all.putAll(grown);
    return new Catalog(server, all, otherTables, notHandled);
  }

  /** Whether a table was loaded or set aside by a restore, and is no part of the site. */
  public static boolean isBeside(String realName) {
    return realName.startsWith(NEW) || realName.startsWith(ASIDE);
  }

  public Optional<CatalogTable> find(String name) {
    return Optional.ofNullable(tables.get(name));
  }

  public Collection<CatalogTable> all() {
    return tables.values();
  }
}
