package weftex.store.engine;

import java.math.BigInteger;
import java.sql.SQLException;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import weftex.core.change.Action;
import weftex.core.model.FollowRules;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Clear;
import weftex.core.site.Counter;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.core.value.Appointments;
import weftex.store.Refusal;
import weftex.store.database.WriteTable;
import weftex.store.receipt.Effect;
import weftex.store.rows.WriteTransaction;

/**
 * What follows from written rows, in the same transaction: counters of the rows that are concerned
 * are recounted, and caches that the site makes anew are made empty. Memory grows with the written
 * rows.
 */
public final class AfterEffects {
  static final int AT_ONCE = 200;
  private static final Pattern NUMBER = Pattern.compile("int|dec|num|real|double|float");

  private final WriteTransaction transaction;
  private final SiteMap site;
  private final List<Counting> countings = new ArrayList<>();
  private final Set<String> written = new LinkedHashSet<>();
  private final Map<String, Set<Value>> concerned = new HashMap<>();
  private final Set<FollowRules.StepRule> due = new HashSet<>();
  private final Map<FollowRules.AppointmentRule, Map<BigInteger, String>> appointments =
      new LinkedHashMap<>();
  private final Effects effects;
  private final GoingAlong along;
  private final Recounting recounting;

  /** A counter, and the rows in which it may be off now. */
  record Counting(TableModel model, Counter counter, Set<Value> owners, Set<Value> throughs) {}

  public AfterEffects(WriteTransaction transaction, TargetTables tables, SiteMap site) {
    this.transaction = transaction;
    this.site = site;
    this.effects = new Effects(transaction, tables);
    this.along = new GoingAlong(transaction, site, effects);
    for (TableModel model : site.tables()) {
      for (Counter counter : model.after().counters()) {
        countings.add(new Counting(model, counter, new LinkedHashSet<>(), new LinkedHashSet<>()));
      }
      for (Clear clear : model.after().clears()) {
        clear.of().ifPresent(of -> concerned.put(of.target(), new LinkedHashSet<>()));
      }
    }
    this.recounting = new Recounting(effects, transaction);
  }

  /**
   * Notes a row that was written.
   *
   * @param before its values before, by column; empty for an added row
   * @param after its values after; empty for a removed row
   */
  public void wrote(
      String table, Action action, Map<String, Value> before, Map<String, Value> after) {
    written.add(table);
    along.wrote(table, action, before, after);
    if (!concerned.isEmpty()) {
      concern(table, before, after);
    }
    if (action != Action.REMOVE && !site.appointments().isEmpty()) {
      appoint(table, before, after);
    }
    for (FollowRules.StepRule step : site.steps()) {
      if (!due.contains(step) && step.isDue(table, after)) {
        due.add(step);
      }
    }
    for (Counting counting : countings) {
      count(table, action, before, after, counting);
    }
  }

  /** Counts what a counter counts, if the row is part of it. */
  private void count(
      String table,
      Action action,
      Map<String, Value> before,
      Map<String, Value> after,
      Counting counting) {
    Counter counter = counting.counter();
    if (counter.of().equals(table)) {
      String by = name(table, counter.by());
      note(counting.owners(), before.get(by));
      note(counting.owners(), after.get(by));
    }
    if (counting.model().table().name().equals(table) && action == Action.ADD) {
      note(counting.owners(), after.get(name(table, counting.model().table().key().get(0))));
    }
    if (counter.through().map(way -> way.to().equals(table)).orElse(false)) {
      Table shape = site.table(table).table();
      boolean moved =
          counter.through().get().where().keySet().stream()
              .map(position -> name(table, position))
              .anyMatch(
                  column ->
                      action != Action.UPDATE
                          || after.containsKey(column)
                              && !after.get(column).equals(before.get(column)));
      if (moved) {
        String key = name(table, shape.key().get(0));
        note(counting.throughs(), after.getOrDefault(key, before.get(key)));
      }
    }
  }

  /** Notes a row that is to be entered in a table of appointments, with its time. */
  private void appoint(String table, Map<String, Value> before, Map<String, Value> after) {
    Map<String, Value> row = new HashMap<>(before);
    row.putAll(after);
    for (FollowRules.AppointmentRule rule : site.appointments()) {
      if (rule.isDue(table, row)) {
        Value key = row.get(name(table, site.table(table).table().key().get(0)));
        if (key instanceof Value.Whole whole) {
          appointments
              .computeIfAbsent(rule, unused -> new LinkedHashMap<>())
              .put(whole.number(), row.get(rule.at()).display());
        }
      }
    }
  }

  /** Enters what is due, in the one value that holds it. */
  private void enter(FollowRules.AppointmentRule rule, Map<BigInteger, String> times)
      throws SQLException, Refusal {
    Optional<WriteTable> table = effects.table(rule.in().table());
    Optional<Integer> column = table.flatMap(found -> found.table().position(rule.in().column()));
    if (column.isEmpty()) {
      return;
    }
    Table shape = table.get().table();
    List<String> where = List.copyOf(rule.in().where().keySet());
    List<Integer> positions = shape.positionsOrNone(where);
    if (positions.isEmpty()) {
      return;
    }
    List<Value> values =
        where.stream().map(name -> Value.text(rule.in().where().get(name))).toList();
    for (List<Value> row : transaction.find(table.get(), positions, values)) {
      if (row.get(column.get()) instanceof Value.Text before) {
        byte[] entered = before.utf8();
        for (Map.Entry<BigInteger, String> time : times.entrySet()) {
          Optional<Long> seconds = seconds(time.getValue());
          if (seconds.isPresent()) {
            entered =
                Appointments.with(entered, seconds.get(), rule.hook(), time.getKey())
                    .orElse(entered);
          }
        }
        Value after = new Value.Text(entered);
        if (!after.equals(before)) {
          effects.change(
              table.get(), Table.pick(row, shape.key()), rule.in().column(), before, after);
        }
      }
    }
  }

  /** A time as the server writes it; empty for one that is none, such as a zero date. */
  private static Optional<Long> seconds(String time) {
    try {
      return Optional.of(LocalDateTime.parse(time.replace(' ', 'T')).toEpochSecond(ZoneOffset.UTC));
    } catch (DateTimeParseException e) {
      return Optional.empty();
    }
  }

  /** Notes the row itself, and the row that it is a part of. */
  private void concern(String table, Map<String, Value> before, Map<String, Value> after) {
    TableModel model = site.table(table);
    Set<Value> own = concerned.get(table);
    if (own != null && model.table().hasKey()) {
      String key = name(table, model.table().key().get(0));
      note(own, after.getOrDefault(key, before.get(key)));
    }
    model
        .parts()
        .of()
        .filter(up -> concerned.containsKey(up.target()))
        .ifPresent(
            up -> {
              String column = name(table, up.columns().get(0));
              note(concerned.get(up.target()), before.get(column));
              note(concerned.get(up.target()), after.get(column));
            });
  }

  private static void note(Set<Value> keys, Value key) {
    if (key != null && !key.isNull()) {
      keys.add(key);
    }
  }

  private String name(String table, int position) {
    return site.table(table).table().columns().get(position).name();
  }

  /**
   * Takes effects of an earlier apply back that was taken back as a whole, where nobody has touched
   * the value since. What is taken back is not worked out again.
   */
  public void takeBack(List<Effect> earlier) throws SQLException, Refusal {
    // Rows that are as they were have what belongs to them as it was.
    concerned.values().forEach(Set::clear);
    appointments.clear();
    along.forget();
    for (Effect effect : earlier) {
      if (site.find(effect.table()).isPresent()) {
        effects.takeBack(effect);
      }
    }
    effects.flush();
  }

  /** Works out what follows, and writes it. */
  public List<Effect> settle() throws SQLException, Refusal {
    for (Counting counting : countings) {
      recounting.recount(counting);
    }
    for (Map.Entry<FollowRules.AppointmentRule, Map<BigInteger, String>> due :
        appointments.entrySet()) {
      enter(due.getKey(), due.getValue());
    }
    for (TableModel model : site.tables()) {
      for (Clear clear : model.after().clears()) {
        if (clear.after().isEmpty() || clear.after().stream().anyMatch(written::contains)) {
          clear(model, clear);
        }
      }
    }
    along.settle();
    effects.flush();
    return effects.all();
  }

  private void clear(TableModel model, Clear clear) throws SQLException, Refusal {
    Optional<WriteTable> table = effects.table(model.table().name());
    if (table.isEmpty()) {
      return;
    }
    Column cleared = model.table().columns().get(clear.column());
    String column = cleared.name();
    Value empty =
        cleared.nullable() && NUMBER.matcher(cleared.type()).find() ? Value.NULL : Value.text("");
    List<List<Value>> keys = new ArrayList<>();
    if (clear.of().isEmpty()) {
      keys = transaction.derived().filled(table.get(), clear.rows(), clear.column());
    } else {
      Reference of = clear.of().get();
      List<Value> rows = List.copyOf(concerned.get(of.target()));
      for (int i = 0; i < rows.size(); i += AT_ONCE) {
        Map<Integer, Collection<Value>> with =
            Map.of(of.columns().get(0), rows.subList(i, Math.min(rows.size(), i + AT_ONCE)));
        keys.addAll(transaction.derived().filled(table.get(), clear.rows(), clear.column(), with));
      }
    }
    for (Map.Entry<List<Value>, Optional<Value>> row :
        effects.read(table.get(), column, keys).entrySet()) {
      if (row.getValue().isPresent()) {
        effects.change(table.get(), row.getKey(), column, row.getValue().get(), empty);
      }
    }
  }

  /**
   * What is left for a person.
   *
   * @param filesTravel whether files were brought along
   */
  public List<String> steps(boolean filesTravel) {
    return site.steps().stream()
        .filter(due::contains)
        .filter(step -> !step.files() || !filesTravel)
        .map(FollowRules.StepRule::say)
        .toList();
  }
}
