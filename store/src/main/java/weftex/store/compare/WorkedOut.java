package weftex.store.compare;

import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import weftex.core.base.PartedRow;
import weftex.core.base.Parting;
import weftex.core.compare.Comparison;
import weftex.core.compare.Difference;
import weftex.core.compare.Side;
import weftex.core.match.BaseEvidence;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.TableModel;
import weftex.store.capture.CaptureWriter;
import weftex.store.capture.Evidence;

/**
 * Works a base out of two copies that nobody recorded one of: rows that are alike are base, and of
 * the others it is found in the data what they were when the copies parted. Rows of tables without
 * a key are taken as staging has them. Memory grows with the rows that differ.
 */
public final class WorkedOut {
  private final ComparisonRun run;
  private final Comparison comparison;
  private final Parting parting;
  private final Evidence evidence = new Evidence();
  private final Map<String, TreeMap<SortKey, Row>> rows = new HashMap<>();
  private final Map<String, Found> found = new TreeMap<>();

  /** Rows under whose key each copy has added one of its own. */
  private final Set<List<Object>> apart = new HashSet<>();

  /** Rows of which nobody can say whether they were there, or whether they are one thing. */
  private final Set<List<Object>> asked = new HashSet<>();

  /**
   * What was found of a table.
   *
   * @param alike rows that both copies have alike
   * @param because rows on which they differ, by what speaks for what
   * @param questions rows of which nothing says it
   */
  public record Found(String table, long alike, Map<String, Long> because, long questions) {}

  /**
   * @param run a comparison of live with staging, without a base
   * @param said when the copies parted, if somebody knows it
   */
  public WorkedOut(ComparisonRun run, Optional<String> said) throws IOException {
    this.run = run;
    this.comparison = run.comparison();
    this.parting = new Parting(said);
    Map<String, Long> alike = new HashMap<>();
    for (int i = 0; i < comparison.tables().size(); i++) {
      TableModel model = comparison.tables().get(i);
      if (model.table().hasKey()) {
        alike.put(model.table().name(), lookAtAlike(i, model));
      }
    }
    for (int i = 0; i < comparison.tables().size(); i++) {
      decide(i, alike);
    }
  }

  /** What was found, by table. */
  public List<Found> found() {
    return List.copyOf(found.values());
  }

  /** When the copies parted, as the site writes times; empty if nothing tells it. */
  public String parted() {
    return parting.time();
  }

  private LongStream differing(int table) {
    return LongStream.concat(comparison.bySource(table), comparison.byTargetOnly(table));
  }

  private long lookAtAlike(int table, TableModel model) throws IOException {
    TreeMap<SortKey, Row> differing = new TreeMap<>();
    for (long at : differing(table).toArray()) {
      Difference row = comparison.log().read(at);
      differing.put((row.target().isPresent() ? row.target() : row.source()).key(), Row.ABSENT);
      if (row.target().isPresent() && row.source().isPresent()) {
        parting.sawDiffering(model, row.target(), comparison.mapped(table, row.source()));
      }
    }
    rows.put(model.table().name(), differing);
    long alike = 0;
    try (RowStream all = run.targetState().open(model.table())) {
      for (Row row = all.next(); row.isPresent(); row = all.next()) {
        if (!differing.containsKey(row.key())) {
          parting.sawAlike(model, row);
          alike++;
        }
      }
    }
    return alike;
  }

  /** Decides on a table's rows, after those that they refer to, as far as there is no circle. */
  private void decide(int table, Map<String, Long> alike) throws IOException {
    TableModel model = comparison.tables().get(table);
    String name = model.table().name();
    if (!model.table().hasKey() || found.containsKey(name)) {
      return;
    }
    found.put(name, new Found(name, 0, Map.of(), 0));
    Set<String> referred =
        model.references().stream().map(Reference::target).collect(Collectors.toSet());
    for (int i = 0; i < comparison.tables().size(); i++) {
      if (referred.contains(comparison.tables().get(i).table().name())) {
        decide(i, alike);
      }
    }
    Map<String, Long> because = new TreeMap<>();
    long questions = 0;
    for (long at : differing(table).toArray()) {
      Difference row = comparison.log().read(at);
      PartedRow parted = parted(model, table, row);
      Row known = row.target().isPresent() ? row.target() : row.source();
      enter(model, known, parted);
      if (!parted.isApart() && parted.isUncertain(model, row.target(), live(table, row))) {
        asked.add(place(model, known));
      }
      questions += parted.why().weight() == BaseEvidence.Weight.QUESTION ? 1 : 0;
      because.merge(withoutTime(parted.why().words()), 1L, Long::sum);
    }
    long apart = partsOfOther(model);
    if (apart > 0) {
      because.merge(PartedRow.apart().why().words(), apart, Long::sum);
    }
    found.put(name, new Found(name, alike.get(name) - apart, because, questions));
  }

  private PartedRow parted(TableModel model, int table, Difference row) throws IOException {
    PartedRow.Owner ofStaging =
        owner(model, row, row.target(), run.targetState(), run.sourceState());
    PartedRow.Owner ofLive = owner(model, row, row.source(), run.sourceState(), run.targetState());
    return PartedRow.of(
        model,
        new PartedRow.Side(run.target().name(), row.target(), ofStaging),
        new PartedRow.Side(run.source().name(), live(table, row), ofLive),
        parting);
  }

  /** Live's row in staging's terms. */
  private Row live(int table, Difference row) throws IOException {
    return row.source().isPresent() ? comparison.mapped(table, row.source()) : Row.ABSENT;
  }

  private void enter(TableModel model, Row known, PartedRow parted) {
    List<Value> key = Table.pick(known.values(), model.table().key());
    rows.get(model.table().name()).put(known.key(), parted.base());
    evidence.add(model.table().name(), key, parted.why());
    if (parted.isApart()) {
      apart.add(place(model, known));
    }
  }

  /**
   * Rows that are alike by their numbers alone, since each copy means another thing by them. Those
   * of a thing that is asked about may be, so what hangs on them is asked about, too.
   */
  private long partsOfOther(TableModel model) throws IOException {
    if (model.parts().of().isEmpty() || apart.isEmpty() && asked.isEmpty()) {
      return 0;
    }
    long parts = 0;
    try (RowStream all = run.targetState().open(model.table())) {
      for (Row row = all.next(); row.isPresent(); row = all.next()) {
        List<Object> owner = owner(model.parts().of().get(), row);
        boolean alike = !rows.get(model.table().name()).containsKey(row.key());
        if (alike && apart.contains(owner)) {
          enter(model, row, PartedRow.apart());
          parts++;
        } else if (alike && asked.contains(owner)) {
          asked.add(place(model, row));
        }
      }
    }
    return parts;
  }

  private static List<Object> place(TableModel model, Row row) {
    return List.of(model.table().name(), Table.pick(row.values(), model.table().key()));
  }

  private static List<Object> owner(Reference partOf, Row row) {
    return List.of(partOf.target(), Table.pick(row.values(), partOf.columns()));
  }

  /** What was found, not when. */
  private static String withoutTime(String words) {
    return words.replaceFirst(" on \\d{4}-.*?,", ",");
  }

  /** What is known on a copy of the rows that another is a part of or refers to. */
  private PartedRow.Owner owner(
      TableModel model, Difference row, Row raw, RowFinder copy, RowFinder other)
      throws IOException {
    Row known = raw.isPresent() ? raw : row.target().isPresent() ? row.target() : row.source();
    for (Reference reference : model.references()) {
      List<Value> referred = Table.pick(known.values(), reference.columns());
      if (asked.contains(List.of(reference.target(), referred))) {
        return PartedRow.Owner.ASKED;
      }
    }
    for (Reference reference : model.references()) {
      boolean isPart = model.parts().of().filter(reference::equals).isPresent();
      List<Value> referred = Table.pick(known.values(), reference.columns());
      Optional<TableModel> of = run.site().find(reference.target());
      List<Object> owner = List.of(reference.target(), referred);
      if (of.isEmpty() || reference.isUnset(referred) || raw.isPresent() && !isPart) {
        continue;
      }
      if (isPart && apart.contains(owner)) {
        return PartedRow.Owner.NEW;
      }
      List<Row> found = copy.find(of.get().table(), reference.targetColumns(), referred, 1);
      if (found.isEmpty() && wasThere(of.get(), reference, referred, other)) {
        return PartedRow.Owner.GONE;
      }
      if (isPart && !found.isEmpty() && parting.isAddedSince(of.get(), found.get(0).values())) {
        return PartedRow.Owner.NEW;
      }
    }
    return PartedRow.Owner.KNOWN;
  }

  /** Whether a copy has a row, and had it when the copies parted. */
  private boolean wasThere(
      TableModel model, Reference reference, List<Value> referred, RowFinder copy)
      throws IOException {
    List<Row> found = copy.find(model.table(), reference.targetColumns(), referred, 1);
    return !found.isEmpty() && !parting.isAddedSince(model, found.get(0).values());
  }

  /**
   * Writes the base.
   *
   * @param marked the time to write down, as an ISO 8601 instant
   * @return how many rows it has
   */
  public long write(CaptureWriter writer, Path folder, String marked, LongConsumer progress)
      throws IOException {
    return writer.write(
        folder,
        run.tables().comparedLayouts(),
        overlaid(),
        marked,
        new CaptureWriter.Extras(Optional.of(evidence), Optional.empty()),
        progress);
  }

  /** Staging's rows, but where they differ from live's those that were before. */
  private Side overlaid() {
    return table -> new OverlaidRows(run.targetState().open(table), rows.get(table.name()));
  }
}
