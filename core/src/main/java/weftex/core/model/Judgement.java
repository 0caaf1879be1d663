package weftex.core.model;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import weftex.core.row.Column;
import weftex.core.row.Table;

/**
 * Whose the rows of a table are that no model names, by evidence.
 *
 * @param role what they are taken for
 * @param evidence what speaks for that, as part of a sentence; empty if nothing speaks for anything
 */
public record Judgement(Role role, String evidence) {
  /** Whole words: templates are no temporary table, and a job may be offered. */
  private static final Pattern NOISE =
      Pattern.compile("(.*_)?(caches?|logs?|locks?|queues?|transients?|tmp|statistics?)");

  private static final Pattern LIVE =
      Pattern.compile(
          ".*(user|account|member|customer|order|booking|comment|review|subscri|payment|submission|(form|lead).*entr|visitor|passenger).*");

  /** Columns that only people who visit the site fill. */
  private static final Pattern PERSONAL =
      Pattern.compile("(.*_)?(e_?mail(_address)?|ip(_?addr(ess)?)?|user_?agent|phone)");

  /** What a table is taken for, by its name and its columns. */
  public static Judgement of(Table table) {
    String name = table.name().toLowerCase(Locale.ROOT);
    if (NOISE.matcher(name).matches()) {
      return new Judgement(Role.NOISE, "its name is that of data which the site rebuilds");
    }
    if (LIVE.matcher(name).matches()) {
      return new Judgement(Role.LIVE, "its name speaks of what visitors make");
    }
    Optional<Column> personal =
        table.columns().stream()
            .filter(column -> PERSONAL.matcher(column.name().toLowerCase(Locale.ROOT)).matches())
            .findFirst();
    return personal
        .map(
            column ->
                new Judgement(Role.LIVE, "it has people's addresses, in column " + column.name()))
        .orElse(new Judgement(Role.CONTENT, ""));
  }

  /** What a table is taken for into which rows came on live since the base was recorded. */
  public static Judgement ofRowsOnLive(long rows) {
    return new Judgement(
        Role.LIVE,
        rows + (rows == 1 ? " row" : " rows") + " came in on live since the base was recorded");
  }
}
