package weftex.core.scan;

import java.io.IOException;
import java.math.BigInteger;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import weftex.core.file.NamedFiles;
import weftex.core.file.SafePath;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Looks through the rows of a copy, each once. */
public final class Scanner {
  private static final int TWINS_LOOKED_AT = 20;

  private final SiteMap site;
  private final RowFinder rows;
  private final ValueScan valueScan;
  private final BrokenReferences references;
  private final FileProbe files;
  private final NamedFiles named;
  private final Findings findings;
  private final Set<String> encoded = new HashSet<>();
  private final Map<String, HashSetOfLongs> identities = new HashMap<>();
  private final DoubledRows doubled;
  private final OtherCopy.Counterpart counterpart;
  private boolean lookingUp;

  /** What is looked at in each row of a table. */
  private record Look(
      TableModel model,
      boolean encoded,
      boolean identity,
      boolean doubled,
      List<BrokenReferences.Checked> references) {}

  /** Looks for files of the copy. */
  public interface FileProbe {
    /** Nothing is known of the copy's files. */
    FileProbe NONE = path -> true;

    /**
     * Whether a file is there.
     *
     * @param path from the copy's folder
     */
    boolean exists(String path) throws IOException;
  }

  /**
   * @param site what the copy's tables mean
   * @param rows finds rows of the copy
   * @param other by what the other copy would show
   * @param hosts by which the copies are known
   * @param files looks for files of the copy
   * @param findings takes what is found
   */
  public Scanner(
      SiteMap site,
      RowFinder rows,
      OtherCopy other,
      Set<String> hosts,
      FileProbe files,
      Findings findings) {
    this.site = site;
    this.rows = rows;
    this.valueScan = new ValueScan(other, findings);
    this.references = new BrokenReferences(site, rows, hosts, findings);
    this.counterpart = other.counterpart();
    this.doubled = new DoubledRows(site, rows);
    this.files = files;
    this.named = new NamedFiles(site, hosts);
    this.findings = findings;
    for (TableModel model : site.tables()) {
      if (model.contents().hasEncoded()) {
        encoded.add(model.table().name());
      }
    }
  }

  /**
   * Looks through a table.
   *
   * @param stream its rows, in any order
   * @param progress is told, now and then, how many rows have been read
   * @return how many rows that were
   */
  public long table(TableModel model, RowStream stream, LongConsumer progress) throws IOException {
    long read = 0;
    Look look = look(model);
    for (Row row = stream.next(); row.isPresent(); row = stream.next()) {
      row(look, row);
      if ((++read & 0x3fff) == 0) {
        progress.accept(read);
      }
    }
    references.read(model);
    return read;
  }

  /** Looks at a row by itself; what it refers to is looked up. */
  public void touched(TableModel model, List<Value> values) throws IOException {
    lookingUp = true;
    references.lookUp();
    row(look(model), Row.of(SortKey.ofWhole(BigInteger.ZERO), values));
  }

  /** Looks at the values of a row alone: leftovers, and what is malformed. */
  public void valuesOf(TableModel model, List<Value> values) {
    valueScan.values(model, values);
  }

  /** The tables in the order in which few references wait for their rows. */
  public List<TableModel> order() {
    return site.tables().stream()
        .sorted(
            Comparator.comparing((TableModel model) -> -site.incoming(model.table().name()).size()))
        .toList();
  }

  private Look look(TableModel model) {
    Table table = model.table();
    // Details of one name are not duplicates, and what the server holds unique has none.
    boolean identity =
        model.parts().of().isEmpty()
            && model.identity().in().isEmpty()
            && !model.identity().columns().isEmpty()
            && table.uniqueKeys().stream()
                .noneMatch(key -> model.identity().columns().containsAll(key));
    return new Look(
        model,
        encoded.contains(table.name()),
        identity,
        !lookingUp && DoubledRows.canHave(model),
        references.of(model));
  }

  /** Looks at one row. */
  private void row(Look look, Row row) throws IOException {
    TableModel model = look.model();
    List<Value> values = row.values();
    references.met(model, values);
    valueScan.row(model, row, look.encoded());
    references.row(model, look.references(), values);
    if (files != FileProbe.NONE && named.mayName(model, row)) {
      files(model, values);
    }
    if (look.identity()) {
      identity(model, values);
    }
    if (look.doubled()) {
      doubled(model, values);
    }
  }

  /** A name that leads out of the folder is no file of it. */
  private void files(TableModel model, List<Value> values) throws IOException {
    Map<String, Integer> met = new LinkedHashMap<>();
    named.each(model, values, (column, path) -> met.putIfAbsent(path, column));
    for (Map.Entry<String, Integer> file : met.entrySet()) {
      Optional<String> path = SafePath.of(file.getKey());
      if (path.isEmpty() || !files.exists(path.get())) {
        findings.add(
            Finding.of(FindingKind.MISSING_FILE, model, values, file.getValue(), file.getKey()));
      }
    }
  }

  private void doubled(TableModel model, List<Value> values) throws IOException {
    Optional<List<Value>> earlier = doubled.earlier(model, values);
    if (earlier.isPresent()) {
      String other = model.table().name() + " " + Finding.key(model, earlier.get());
      String advice =
          counterpart.advice(model, DoubledRows.lookUp(model, values), earlier.get(), values);
      int column = model.item().map(item -> item.name().get(0)).orElse(model.table().number());
      findings.add(
          Finding.of(
              FindingKind.DOUBLED,
              model,
              values,
              column,
              "says the same as " + other + (advice.isEmpty() ? "" : "; " + advice)));
    }
  }

  private void identity(TableModel model, List<Value> values) throws IOException {
    if (!model.identity().isOf(values)) {
      return;
    }
    List<Value> identity = Table.pick(values, model.identity().columns());
    boolean first =
        identities
            .computeIfAbsent(model.table().name(), unused -> new HashSetOfLongs())
            .add(Fnv.hash(identity));
    if (first && !lookingUp) {
      return;
    }
    String words = String.join(", ", identity.stream().map(Value::display).toList());
    String key = Finding.key(model, values);
    for (Row twin :
        rows.find(model.table(), model.identity().columns(), identity, TWINS_LOOKED_AT)) {
      List<Value> other = twin.values();
      if (!Finding.key(model, other).equals(key) && model.identity().isOf(other)) {
        findings.add(
            Finding.of(
                FindingKind.DUPLICATE,
                model,
                values,
                model.identity().columns().get(model.identity().columns().size() - 1),
                "like " + model.table().name() + " " + Finding.key(model, other) + ": " + words));
        return;
      }
    }
  }

  /** Settles what could only be known when all tables were read. */
  public void finish() {
    references.finish();
  }
}
