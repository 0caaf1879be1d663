package weftex.cli.config;

import java.math.BigInteger;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import weftex.core.file.FileChoice;
import weftex.core.model.Role;
import weftex.core.row.RowName;
import weftex.core.select.ItemFilter;
import weftex.core.select.MemberFilter;
import weftex.core.select.Selection;
import weftex.core.select.ThingFilter;
import weftex.store.Refusal;

/**
 * A selection as people write it: the words of options, and what is said for them. The same words
 * stand on the command line, in weftex.yaml and in the header of a change set.
 *
 * @param said by option name, in the order of {@link #WORDS}
 */
public record SelectionWords(Map<String, List<String>> said) {
  /** Every word, and what it means. */
  public static final Map<String, String> WORDS = words();

  /** The word for things that stay two. */
  public static final String BOTH = "both";

  /** Words that only a comparison can follow. */
  public static final Set<String> OF_COMPARISONS =
      Set.of(
          "everything",
          BOTH,
          "same",
          "settled",
          "member",
          "without-member",
          FileChoice.ASKED,
          FileChoice.WITHOUT);

  /** The word for things that are one, though nothing in them says so. */
  public static final String SAME = "same";

  /** The word by which earlier answers are asked again. */
  public static final String SETTLED = "settled";

  private static final Pattern ROW = Pattern.compile("([^:]+):(\\d{1,20})");
  private static final Pattern PAIR = Pattern.compile("([^:]+):(\\d{1,20})=(\\d{1,20})");

  /** The word that turns a draft into one of all that a copy has. */
  public static final String EVERYTHING = "everything";

  private static final Pattern AGO = Pattern.compile("(\\d{1,5}) ?(h|d|w)(?:ours?|ays?|eeks?)?");

  public SelectionWords {
    said = Map.copyOf(said);
  }

  private static Map<String, String> words() {
    Map<String, String> words = new LinkedHashMap<>();
    words.put(
        "tables", "only these tables, with * and ?; live's own and noise by their exact name");
    words.put("without", "leave these tables out");
    words.put(
        "with",
        "bring what is left out by default, by its table or by what it is: comments, account, noise;"
            + " users.user_pass brings a secret column");
    words.put(
        "item",
        "only some things and all that belongs to them: 'page:Winter*', setting:tagline, 'menu"
            + " entry'");
    words.put("without-item", "everything but these things: account, 'page:Draft*'");
    words.put("rows", "only some rows: pages:4, pages:4-9,12 or pages.status=published");
    words.put("without-rows", "everything but these rows");
    words.put(
        "member",
        "of settings and other values that have members, only these: nav_menu_locations, 'mail.*'; a"
            + " dot leads inside");
    words.put("without-member", "of values that have members, everything but these");
    words.put("path", "only things at these public paths: '/harbours/*'");
    words.put("without-path", "everything but what is at these public paths");
    words.put("author", "only things of these people, by the name that the site knows them by");
    words.put("without-author", "everything but things of these people");
    words.put(
        "since", "only things changed then or later: 2026-11-20, '2026-11-20 14:00', 3d, 12h");
    words.put("until", "everything but what was changed then or later");
    addDecided(words);
    return words;
  }

  private static void addDecided(Map<String, String> words) {
    words.put(
        EVERYTHING,
        "into staging: all that live has, live's own rows included, secrets and each copy's own"
            + " settings apart; staging's side stays in conflicts");
    words.put(
        BOTH,
        "rows that stay things of their own though both copies added one of that name: posts:231, by"
            + " the ID of the copy that they come from");
    words.put(
        SAME,
        "rows that are one thing on both copies though nothing in them says so: posts:231=540, the ID"
            + " of the copy that it comes from first");
    words.put(
        SETTLED,
        "also what somebody decided for the receiving copy's side in an earlier merge: it is asked"
            + " again");
    words.put("new-tables", "only tables that the receiving copy lacks");
    words.put("without-new-tables", "everything but tables that the receiving copy lacks");
    words.put(
        FileChoice.ASKED,
        "also files that no row names, by their paths from the copy's folder:"
            + " 'wp-content/uploads/forms/*'");
    words.put(FileChoice.WITHOUT, "rows alone, without the files that they name");
  }

  /** Whether a word stands alone. */
  public static boolean isFlag(String word) {
    return word.endsWith("new-tables")
        || word.equals(EVERYTHING)
        || word.equals(SETTLED)
        || word.equals(FileChoice.WITHOUT);
  }

  /** Whether a word takes several things in one, with commas between. */
  public static boolean isList(String word) {
    return word.equals(BOTH)
        || word.equals(SAME)
        || word.equals("tables")
        || word.equals("without")
        || word.equals("with")
        || word.equals(FileChoice.ASKED);
  }

  /** Whether nothing is said. */
  public boolean isEmpty() {
    return said.isEmpty();
  }

  /** Both. */
  public SelectionWords and(SelectionWords other) {
    Map<String, List<String>> both = new LinkedHashMap<>();
    for (String word : WORDS.keySet()) {
      List<String> all = new ArrayList<>(values(word));
      other.values(word).stream().filter(value -> !all.contains(value)).forEach(all::add);
      if (!all.isEmpty()) {
        both.put(word, all);
      }
    }
    return new SelectionWords(both);
  }

  /** As it is said once for all: a time that was given as so long ago becomes that time. */
  public SelectionWords settled(Instant now) throws Refusal {
    Map<String, List<String>> settled = new LinkedHashMap<>(said);
    for (String word : List.of("since", "until")) {
      List<String> times = new ArrayList<>();
      for (String text : values(word)) {
        times.add(time(word, text, now));
      }
      if (times.size() > 1) {
        throw wrong("--" + word + " is said more than once");
      }
      if (!times.isEmpty()) {
        settled.put(word, times);
      }
    }
    return new SelectionWords(settled);
  }

  /**
   * What is meant.
   *
   * @param now what so long ago counts from
   * @throws Refusal if something is not of its form
   */
  public Selection selection(Instant now) throws Refusal {
    SelectionWords settled = settled(now);
    boolean onlyNew = !values("new-tables").isEmpty();
    boolean withoutNew = !values("without-new-tables").isEmpty();
    if (onlyNew && withoutNew) {
      throw wrong("only new tables and no new tables are asked for");
    }
    return new Selection(
        values("tables"),
        values("without"),
        isEverything() ? joined(values("with"), Role.LIVE.words()) : values("with"),
        rows("rows"),
        rows("without-rows"),
        new ThingFilter(
            items("item"),
            items("without-item"),
            values("path"),
            values("without-path"),
            values("author"),
            values("without-author"),
            settled.first("since"),
            settled.first("until")),
        new MemberFilter(values("member"), values("without-member")),
        onlyNew || withoutNew ? Optional.of(onlyNew) : Optional.empty());
  }

  /**
   * The rows that stay things of their own.
   *
   * @throws Refusal if one is not of its form
   */
  public Set<RowName> apart() throws Refusal {
    Set<RowName> apart = new LinkedHashSet<>();
    for (String text : values(BOTH)) {
      Matcher row = ROW.matcher(text);
      if (!row.matches()) {
        throw wrong("'" + text + "' names no row; write TABLE:ID, such as posts:231");
      }
      apart.add(new RowName(row.group(1), new BigInteger(row.group(2))));
    }
    return apart;
  }

  /**
   * Rows that are one thing on both copies: the ID on the receiving copy by the row that comes.
   *
   * @throws Refusal if one is not of its form, or is said to be two things
   */
  public Map<RowName, BigInteger> same() throws Refusal {
    Map<RowName, BigInteger> same = new LinkedHashMap<>();
    for (String text : values(SAME)) {
      Matcher pair = PAIR.matcher(text);
      if (!pair.matches()) {
        throw wrong("'" + text + "' names no pair; write TABLE:ID=ID, such as posts:231=540");
      }
      RowName row = new RowName(pair.group(1), new BigInteger(pair.group(2)));
      BigInteger other = new BigInteger(pair.group(3));
      BigInteger before = same.put(row, other);
      boolean twice =
          same.entrySet().stream()
                  .filter(e -> e.getKey().table().equals(row.table()) && e.getValue().equals(other))
                  .count()
              > 1;
      if (before != null && !before.equals(other) || twice) {
        throw wrong("'" + text + "' contradicts another pair: one row can't be the same as two");
      }
    }
    return same;
  }

  /**
   * Which files travel.
   *
   * @param usual as weftex.yaml says it
   */
  public FileChoice files(FileChoice usual) {
    return usual.and(said.containsKey(FileChoice.WITHOUT), values(FileChoice.ASKED));
  }

  /** Whether all that the other copy has is wanted, without a question. */
  public boolean isEverything() {
    return said.containsKey(EVERYTHING);
  }

  /** Whether what was decided for the receiving copy's side in earlier merges is asked again. */
  public boolean asksAgain() {
    return said.containsKey(SETTLED);
  }

  private static List<String> joined(List<String> some, String one) {
    List<String> all = new ArrayList<>(some);
    all.add(one);
    return all;
  }

  private List<String> values(String word) {
    return said.getOrDefault(word, List.of());
  }

  private String first(String word) {
    return values(word).stream().findFirst().orElse("");
  }

  private List<ItemFilter> items(String word) {
    return values(word).stream().map(ItemFilter::parse).toList();
  }

  private List<Selection.RowFilter> rows(String word) throws Refusal {
    List<Selection.RowFilter> rows = new ArrayList<>();
    for (String text : values(word)) {
      try {
        rows.addAll(Selection.RowFilter.parse(text));
      } catch (IllegalArgumentException e) {
        throw wrong(e.getMessage());
      }
    }
    return rows;
  }

  private static String time(String word, String text, Instant now) throws Refusal {
    Matcher ago = AGO.matcher(text);
    if (ago.matches()) {
      long many = Long.parseLong(ago.group(1));
      Instant then =
          switch (ago.group(2)) {
            case "h" -> now.minus(many, ChronoUnit.HOURS);
            case "d" -> now.minus(many, ChronoUnit.DAYS);
            default -> now.minus(7 * many, ChronoUnit.DAYS);
          };
      return LocalDateTime.ofInstant(then, ZoneOffset.UTC).truncatedTo(ChronoUnit.SECONDS) + "";
    }
    try {
      String written = text.replace(' ', 'T');
      if (written.length() <= 10) {
        return LocalDate.parse(written).toString();
      }
      LocalDateTime.parse(written);
      return written;
    } catch (DateTimeParseException e) {
      throw wrong(
          "--"
              + word
              + " '"
              + text
              + "' is no time: write 2026-11-20, '2026-11-20 14:00', 3d or 12h");
    }
  }

  private static Refusal wrong(String what) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT, what + ". Nothing was changed.", "See 'weftex draft --help'.");
  }
}
