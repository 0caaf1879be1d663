package weftex.store.compare;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weftex.core.derive.GuessedReference;
import weftex.core.model.Role;
import weftex.core.row.Column;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.store.Refusal;
import weftex.store.capture.Capture;
import weftex.store.copy.Copy;
import weftex.store.copy.Pairing;
import weftex.store.database.Layout;
import weftex.store.database.SharedTable;
import weftex.store.schema.SchemaGrowth;

/** Which tables and columns of two copies are compared, and what they mean. */
public final class ComparedTables {
  private final Optional<Capture> base;
  private final SchemaGrowth growth;
  private final Pairing pairing;
  private final List<Layout> outside;
  private final UnknownReferences guessed;
  private final SiteMap site;
  private final List<String> noise;

  /**
   * @throws Refusal if a copy can't be reached, or the base does not fit
   */
  ComparedTables(ComparisonRun.Request request) throws Refusal, IOException {
    this.base = request.base();
    this.growth = growth(request);
    Pairing whole = Pairing.of(request.source(), target());
    this.pairing = base.isPresent() ? whole.within(this::knownColumns) : whole;
    this.outside = pairing.outside(target());
    this.guessed =
        UnknownReferences.of(
            request.source(),
            request.tables().model(),
            pairing.shared().stream().map(table -> table.source().table()).toList());
    this.site =
        SiteMap.resolve(
            request.tables().model(),
            targetLayouts().stream().map(Layout::table).toList(),
            guessed.rules());
    if (base.isPresent()) {
      base.get().checkOrder(pairing.targetLayouts());
    }
    this.noise =
        whole.shared().stream()
            .map(SharedTable::name)
            .filter(name -> site.table(name).ownership().role() == Role.NOISE)
            .filter(name -> !request.tables().named().contains(name))
            .toList();
  }

  private static SchemaGrowth growth(ComparisonRun.Request request) throws Refusal {
    if (request.base().isEmpty()) {
      return SchemaGrowth.none(request.source(), request.target());
    }
    return SchemaGrowth.of(
        request.source(),
        request.target(),
        request.base().get()::columns,
        name ->
            request
                    .source()
                    .catalog()
                    .find(name)
                    .filter(table -> request.tables().model().role(table.table()) == Role.NOISE)
                    .isEmpty()
                || request.tables().named().contains(name),
        request.tables().made()::contains);
  }

  /** The columns of a table that the base has, or that are newer than it. */
  private List<String> knownColumns(String table) {
    if (growth.isNew(table)) {
      return target().catalog().find(table).orElseThrow().table().columns().stream()
          .map(Column::name)
          .toList();
    }
    List<String> known = new ArrayList<>(base.orElseThrow().columns(table));
    known.addAll(growth.fills().getOrDefault(table, Map.of()).keySet());
    return known;
  }

  /** The target, with what it is going to have. */
  Copy target() {
    return growth.target();
  }

  /** The tables that are compared. */
  List<TableModel> compared() {
    Set<String> shared =
        pairing.shared().stream().map(SharedTable::name).collect(Collectors.toSet());
    return site.tables().stream()
        .filter(model -> shared.contains(model.table().name()))
        .filter(model -> !noise.contains(model.table().name()))
        .toList();
  }

  /** How all tables of the target lie there, those that are not compared last. */
  List<Layout> targetLayouts() {
    return Stream.concat(pairing.targetLayouts().stream(), outside.stream()).toList();
  }

  /** How the target's compared tables lie there. */
  List<Layout> comparedLayouts() {
    return pairing.targetLayouts().stream()
        .filter(layout -> !noise.contains(layout.table().name()))
        .toList();
  }

  /** A table as both copies have it. */
  SharedTable shared(String name) {
    return pairing.shared().stream()
        .filter(table -> table.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  /** What the tables mean. */
  public SiteMap site() {
    return site;
  }

  /** References of tables that no model names, by table. */
  public Map<String, List<GuessedReference>> guessedReferences() {
    return guessed.byTable();
  }

  /** Tables that are passed over as noise. */
  public List<String> noise() {
    return noise;
  }

  /** New tables and columns, and which of them can't be brought. */
  public SchemaGrowth growth() {
    return growth;
  }

  /** How the copies' tables go together. */
  public Pairing pairing() {
    return pairing;
  }
}
