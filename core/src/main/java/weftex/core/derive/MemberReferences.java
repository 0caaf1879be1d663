package weftex.core.derive;

import com.fasterxml.jackson.databind.node.TextNode;
import java.io.IOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import weftex.core.model.InsideRule;
import weftex.core.model.PlaceRule;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.model.TableRule;
import weftex.core.row.Column;
import weftex.core.row.Glob;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;
import weftex.core.value.Structure;

/**
 * References inside the structured values of a table: members whose numbers are IDs of rows. The
 * name of the member and its values speak for it; by values alone, only if that is no accident.
 */
final class MemberReferences {
  /** By what rows of settings and details are told apart. */
  private static final Pattern NAMING = Pattern.compile("(?i)(.*_)?(name|key)");

  private static final double MOST = 0.9;
  private static final double SOME = 0.5;
  private static final double CHANCE = 0.05;

  /** Of fewer different numbers nothing can be said without a name. */
  private static final int FEWEST = 3;

  private final Collection<Table> all;
  private final SiteModel model;
  private final Evidence evidence;
  private final MemberNames names;

  MemberReferences(Collection<Table> all, SiteModel model, Evidence evidence) throws IOException {
    this.all = all;
    this.model = model;
    this.evidence = evidence;
    this.names = new MemberNames(all, model, evidence);
    names.gather();
  }

  /**
   * The guesses for a table, in the order of its columns; what is only possible is commented out.
   */
  List<DerivedTable.Guess> of(Table table) throws IOException {
    List<DerivedTable.Guess> guesses = new ArrayList<>();
    TableRule rule = model.rule(table.name());
    boolean isKnown = model.describes(table.name());
    for (int i = 0; i < table.columns().size(); i++) {
      Column column = table.columns().get(i);
      boolean isWanted = !isKnown || rule.contents().inside().containsKey(column.name());
      if (mayBeText(column) && isWanted && !table.key().contains(i)) {
        guesses.addAll(of(table, i, naming(table, i), rule));
      }
    }
    return guesses;
  }

  private static boolean mayBeText(Column column) {
    return column.kind() == ValueKind.TEXT || column.kind() == ValueKind.ANY;
  }

  private static Optional<Integer> naming(Table table, int column) {
    for (int i = 0; i < table.columns().size(); i++) {
      Column at = table.columns().get(i);
      if (i != column && mayBeText(at) && NAMING.matcher(at.name()).matches()) {
        return Optional.of(i);
      }
    }
    return Optional.empty();
  }

  private List<DerivedTable.Guess> of(
      Table table, int column, Optional<Integer> naming, TableRule rule) throws IOException {
    String name = table.columns().get(column).name();
    String by = naming.map(i -> table.columns().get(i).name()).orElse("");
    Map<MemberNumbers.Member, TreeSet<BigInteger>> members = new LinkedHashMap<>();
    for (Evidence.Structured sample : evidence.structured(table, column, naming)) {
      if (!isLeftAlone(rule, by, sample.row())) {
        Structure.detect(sample.value().getBytes(StandardCharsets.UTF_8))
            .ifPresent(
                value ->
                    MemberNumbers.gather(value, value.root(), List.of(), sample.row(), members));
      }
    }
    List<DerivedTable.Guess> guesses = new ArrayList<>();
    for (Map.Entry<MemberNumbers.Member, TreeSet<BigInteger>> entry : members.entrySet()) {
      MemberNumbers.Member member = entry.getKey();
      if (!isDeclared(rule, name, by, member)) {
        guess(member, entry.getValue(), name, by).ifPresent(guesses::add);
      }
    }
    return guesses;
  }

  /** Whether rows called so never travel by themselves. */
  private static boolean isLeftAlone(TableRule rule, String by, String row) {
    return rule.ownership().rows().stream()
        .filter(r -> r.role() == Role.NOISE || r.role() == Role.OWN)
        .flatMap(r -> r.when().getOrDefault(by, List.of()).stream())
        .anyMatch(pattern -> Glob.matches(pattern, row));
  }

  private static boolean isDeclared(
      TableRule rule, String column, String by, MemberNumbers.Member member) {
    for (InsideRule inside : rule.contents().inside().getOrDefault(column, List.of())) {
      List<String> rows = inside.when().getOrDefault(by, List.of());
      boolean holds =
          rows.isEmpty() || rows.stream().anyMatch(row -> Glob.matches(row, member.row()));
      if (holds && inside.refers().stream().anyMatch(place -> isAt(place, member.path()))) {
        return true;
      }
    }
    return false;
  }

  private static boolean isAt(PlaceRule place, String path) {
    String pattern = place.path().replace("**", "*");
    return !place.path().isEmpty() && Glob.matches(pattern, path);
  }

  private Optional<DerivedTable.Guess> guess(
      MemberNumbers.Member member, TreeSet<BigInteger> numbers, String column, String by)
      throws IOException {
    Optional<Table> named = named(member.path(), column);
    if (named.isPresent()) {
      Evidence.Share share = evidence.keysAmong(numbers, named.get());
      if (!share.isAtLeast(SOME)) {
        return Optional.empty();
      }
      boolean isCertain = share.isAtLeast(MOST) && share.of() > 1;
      return Optional.of(
          guess(
              member,
              named.get(),
              column,
              by,
              isCertain ? MemberCertainty.CERTAIN : MemberCertainty.LIKELY,
              share));
    }
    List<Table> likely = new ArrayList<>();
    for (Table target : numbers.size() < FEWEST ? List.<Table>of() : referable()) {
      double density = evidence.density(target);
      if (evidence.keysAmong(numbers, target).isAtLeast(1)
          && Math.pow(density, numbers.size()) < CHANCE) {
        likely.add(target);
      }
    }
    if (likely.size() != 1) {
      return Optional.empty();
    }
    return Optional.of(
        guess(
            member,
            likely.get(0),
            column,
            by,
            MemberCertainty.POSSIBLE,
            evidence.keysAmong(numbers, likely.get(0))));
  }

  private Optional<Table> named(String path, String column) {
    String last =
        Stream.of(path.split("\\."))
            .filter(key -> !key.equals("*"))
            .reduce(column, (before, key) -> key);
    // A list may be called as what is in it, and be all of the column's value.
    String list = path.endsWith("*") ? ReferredTable.singular(last) : "";
    return names
        .target(last)
        .or(() -> names.called(list))
        .flatMap(to -> all.stream().filter(table -> table.name().equals(to)).findFirst());
  }

  private List<Table> referable() {
    return all.stream()
        .filter(table -> table.isNumbered() || !model.rule(table.name()).number().isEmpty())
        .filter(table -> table.key().size() == 1)
        .toList();
  }

  private static DerivedTable.Guess guess(
      MemberNumbers.Member member,
      Table to,
      String column,
      String by,
      MemberCertainty certainty,
      Evidence.Share share) {
    String when = by.isEmpty() ? "" : "when: {" + by + ": " + quoted(member.row()) + "}, ";
    String entry =
        "- {" + when + "refers: [{path: " + quoted(member.path()) + ", to: " + to.name() + "}]}";
    String why =
        certainty.word()
            + ": "
            + (certainty == MemberCertainty.POSSIBLE ? "" : "by its name, and ")
            + share.found()
            + " of "
            + share.of()
            + (share.of() == 1 ? " value is an ID of " : " values are IDs of ")
            + to.name();
    return new DerivedTable.Guess(
        DerivedTable.INSIDE + column,
        (certainty == MemberCertainty.POSSIBLE ? "# " : "") + entry,
        why);
  }

  /** Any text in quotes is the same in YAML as in JSON. */
  private static String quoted(String text) {
    return TextNode.valueOf(text).toString();
  }
}
