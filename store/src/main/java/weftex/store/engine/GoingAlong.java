package weftex.store.engine;

import java.math.BigInteger;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import weftex.core.change.Action;
import weftex.core.model.FollowRules;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.value.RememberedTexts;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.rows.WriteTransaction;

/**
 * Rows that go along with a row's status, such as the comments of a page that goes into the bin and
 * comes out of it again. The site remembers in a row of its own what each of them was before.
 */
final class GoingAlong {
  private final WriteTransaction transaction;
  private final SiteMap site;
  private final Effects effects;

  /** Rows whose status was changed, by their key: whether they have it now. */
  private final Map<FollowRules.AlongRule, Map<Value, Boolean>> moved = new LinkedHashMap<>();

  GoingAlong(WriteTransaction transaction, SiteMap site, Effects effects) {
    this.transaction = transaction;
    this.site = site;
    this.effects = effects;
  }

  /** Notes a row that was written. */
  void wrote(String table, Action action, Map<String, Value> before, Map<String, Value> after) {
    for (FollowRules.AlongRule rule : site.along()) {
      if (action == Action.UPDATE && rule.of().equals(table)) {
        Map<String, Value> now = new LinkedHashMap<>(before);
        now.putAll(after);
        boolean has = rule.isTold(now);
        if (has != rule.isTold(before)) {
          Table shape = site.table(table).table();
          Value key = before.get(shape.columns().get(shape.key().get(0)).name());
          moved.computeIfAbsent(rule, unused -> new LinkedHashMap<>()).put(key, has);
        }
      }
    }
  }

  /** Forgets what was noted: it is taken back as it was done. */
  void forget() {
    moved.clear();
  }

  /** Writes what goes along. */
  void settle() throws SQLException, Refusal {
    for (Map.Entry<FollowRules.AlongRule, Map<Value, Boolean>> rule : moved.entrySet()) {
      Optional<WriteTable> rows = effects.table(rule.getKey().rows().table());
      Optional<WriteTable> memory = effects.table(rule.getKey().remembered().table());
      if (rows.isPresent() && memory.isPresent()) {
        for (Map.Entry<Value, Boolean> row : rule.getValue().entrySet()) {
          settle(rule.getKey(), rows.get(), memory.get(), row.getKey(), row.getValue());
        }
      }
    }
  }

  private void settle(
      FollowRules.AlongRule rule, WriteTable rows, WriteTable memory, Value owner, boolean has)
      throws SQLException, Refusal {
    effects.flush();
    Map<BigInteger, String> now = statuses(rule.rows(), rows, owner);
    List<List<Value>> remembered = remembered(rule.remembered(), memory, owner);
    if (has) {
      now.values().removeIf(rule.rows().becomes()::equals);
      for (Map.Entry<BigInteger, String> row : now.entrySet()) {
        change(rule, rows, row.getKey(), row.getValue(), rule.rows().becomes());
      }
      remember(rule.remembered(), memory, owner, remembered, now);
      return;
    }
    int column = memory.table().position(rule.remembered().column()).orElseThrow();
    for (List<Value> row : remembered) {
      for (Map.Entry<BigInteger, String> was : RememberedTexts.read(row.get(column)).entrySet()) {
        if (rule.rows().becomes().equals(now.get(was.getKey()))) {
          change(rule, rows, was.getKey(), rule.rows().becomes(), was.getValue());
        }
      }
      effects.remove(memory, row);
    }
  }

  private void change(
      FollowRules.AlongRule rule, WriteTable rows, BigInteger number, String before, String after)
      throws SQLException {
    effects.change(
        rows,
        List.of(new Value.Whole(number)),
        rule.rows().column(),
        Value.text(before),
        Value.text(after));
  }

  /** The status of the rows that hang on another, by their number, in its order. */
  private Map<BigInteger, String> statuses(
      FollowRules.AlongRule.Rows rule, WriteTable rows, Value owner) throws SQLException {
    WriteTable narrow = rows.only(Set.of(rule.by(), rule.column()));
    Table shape = narrow.table();
    int by = shape.position(rule.by()).orElseThrow();
    int column = shape.position(rule.column()).orElseThrow();
    Map<BigInteger, String> statuses = new TreeMap<>();
    for (List<Value> row : transaction.find(narrow, List.of(by), List.of(owner))) {
      if (row.get(shape.key().get(0)) instanceof Value.Whole number) {
        statuses.put(number.number(), row.get(column).display());
      }
    }
    return statuses;
  }

  private List<List<Value>> remembered(
      FollowRules.AlongRule.Memory rule, WriteTable memory, Value owner) throws SQLException {
    Map<String, Value> told = told(rule, owner);
    List<Integer> positions = memory.table().positionsOrNone(List.copyOf(told.keySet()));
    return transaction.find(memory, positions, List.copyOf(told.values()));
  }

  private static Map<String, Value> told(FollowRules.AlongRule.Memory rule, Value owner) {
    Map<String, Value> told = new LinkedHashMap<>();
    told.put(rule.by(), owner);
    rule.where().forEach((name, value) -> told.put(name, Value.text(value)));
    return told;
  }

  private void remember(
      FollowRules.AlongRule.Memory rule,
      WriteTable memory,
      Value owner,
      List<List<Value>> earlier,
      Map<BigInteger, String> statuses)
      throws SQLException, Refusal {
    Table shape = memory.table();
    for (List<Value> row : earlier) {
      effects.remove(memory, row);
    }
    if (!statuses.isEmpty()) {
      effects.flush();
      Map<String, Value> row = new LinkedHashMap<>();
      String number = shape.columns().get(shape.number()).name();
      row.put(number, new Value.Whole(transaction.nextNumber(memory)));
      row.putAll(told(rule, owner));
      row.put(rule.column(), RememberedTexts.of(statuses));
      effects.make(memory, row);
    }
  }
}
