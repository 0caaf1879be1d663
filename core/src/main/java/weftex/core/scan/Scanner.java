package weftex.core.scan;

import java.io.IOException;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import weftex.core.address.AddressMap;
import weftex.core.address.Form;
import weftex.core.address.MappedRows;
import weftex.core.file.NamedFiles;
import weftex.core.file.SafePath;
import weftex.core.reference.InsideReferences;
import weftex.core.reference.NumberPlaces;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.RowStream;
import weftex.core.row.SortKey;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.Reference;
import weftex.core.site.Role;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.core.value.Format;
import weftex.core.value.Place;
import weftex.core.value.Rewriting;
import weftex.core.value.Weaver;

/**
 * Looks through the rows of a copy, each once. Memory grows with a bit for each numbered row, and
 * with the references that are not found yet: those to rows which come later.
 */
public final class Scanner {
  private static final int TWINS_LOOKED_AT = 20;

  /** References to rows that have not come yet; more are looked up singly. */
  private static final int MOST_WAITING = 50_000;

  private final SiteMap site;
  private final RowFinder rows;
  private final AddressMap leftovers;
  private final AddressMap hosts;
  private final MappedRows.Prefixes prefixes;
  private final FileProbe files;
  private final NamedFiles named;
  private final InsideReferences inside;
  private final Findings findings;
  private final Map<String, NumberSet> present = new HashMap<>();
  private final Set<String> whole = new HashSet<>();
  private final Set<String> encoded = new HashSet<>();
  private final Map<Target, List<Waiting>> waiting = new LinkedHashMap<>();
  private final Map<String, HashSetOfLongs> identities = new HashMap<>();
  private final DoubledRows doubled;
  private final OtherCopy.Counterpart counterpart;
  private int waitingCount;
  private boolean lookingUp;

  /** A number of a table. */
  private record Target(String table, BigInteger number) {}

  /** What is looked at in each row of a table. */
  private record Look(
      TableModel model,
      NumberSet numbers,
      boolean leftovers,
      boolean identity,
      boolean doubled,
      List<Checked> references) {}

  /**
   * A reference of the model to rows that are told by a number.
   *
   * @param met the numbers that have been met
   */
  private record Checked(int column, Reference reference, NumberSet met) {}

  /** A reference whose row has not been met. */
  private record Waiting(String table, String key, String column, Role role) {}

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
    this.leftovers = other.addresses();
    this.hosts = other.mentions();
    this.prefixes = other.prefixes();
    this.counterpart = other.counterpart();
    this.doubled = new DoubledRows(site, rows);
    this.files = files;
    this.named = new NamedFiles(site, hosts);
    this.inside = new InsideReferences(rows, hosts);
    this.findings = findings;
    for (TableModel model : site.tables()) {
      if (model.hasEncoded()) {
        encoded.add(model.table().name());
      }
      if (isNumber(model.table(), model.table().key())) {
        present.put(model.table().name(), new NumberSet());
      }
    }
  }

  private static boolean isNumber(Table table, List<Integer> columns) {
    return columns.size() == 1
        && table.key().equals(columns)
        && table.columns().get(columns.get(0)).kind() == weftex.core.row.ValueKind.WHOLE;
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
    whole.add(model.table().name());
    return read;
  }

  /** Looks at a row by itself; what it refers to is looked up. */
  public void touched(TableModel model, List<Value> values) throws IOException {
    lookingUp = true;
    row(look(model), Row.of(SortKey.ofWhole(BigInteger.ZERO), values));
  }

  /** Looks at the values of a row alone: leftovers, and what is malformed. */
  public void valuesOf(TableModel model, List<Value> values) {
    leftovers(model, values);
    prefixes(model, values);
    formats(model, values);
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
    List<Checked> references = new ArrayList<>();
    for (Reference reference : model.references()) {
      TableModel to = site.table(reference.target());
      if (!reference.enforced() && isNumber(to.table(), reference.targetColumns())) {
        references.add(
            new Checked(reference.columns().get(0), reference, present.get(reference.target())));
      }
    }
    // Details of one name are not duplicates, and what the server holds unique has none.
    boolean identity =
        model.partOf().isEmpty()
            && model.identityIn().isEmpty()
            && !model.identity().isEmpty()
            && table.uniqueKeys().stream().noneMatch(key -> model.identity().containsAll(key));
    return new Look(
        model,
        present.get(table.name()),
        encoded.contains(table.name()),
        identity,
        !lookingUp && DoubledRows.canHave(model),
        references);
  }

  /** Looks at one row. */
  private void row(Look look, Row row) throws IOException {
    TableModel model = look.model();
    List<Value> values = row.values();
    if (look.numbers() != null
        && values.get(model.table().key().get(0)) instanceof Value.Whole whole) {
      look.numbers().add(whole.number());
    }
    if (!leftovers.isNothing() && (look.leftovers() || row.holds(leftovers::mayTouch))) {
      leftovers(model, values);
    }
    if (!hosts.isNothing() && (look.leftovers() || row.holds(hosts::mayTouch))) {
      hosts(model, values);
    }
    prefixes(model, values);
    formats(model, values);
    references(look, values);
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
        add(FindingKind.MISSING_FILE, model, values, file.getValue(), file.getKey());
      }
    }
  }

  private void leftovers(TableModel model, List<Value> values) {
    // Where a copy lives is its own affair, even if it says where the other one lives.
    boolean own = model.stays(values);
    for (int i = 0; i < values.size(); i++) {
      List<Form> forms = new ArrayList<>();
      leftovers.map(values.get(i), model.format(i, values), forms::add);
      // What identifies a row for the outside world is left alone on purpose.
      Role whose = own || model.permanent().contains(i) ? Role.NOISE : model.role(values);
      for (Form form : forms) {
        findings.add(
            finding(FindingKind.LEFTOVER, model, values, i, form.label(), whose), form.label());
      }
    }
  }

  private void hosts(TableModel model, List<Value> values) {
    Role whose = model.stays(values) ? Role.NOISE : model.role(values);
    for (int i = 0; i < values.size(); i++) {
      int column = i;
      hosts.map(
          values.get(i),
          model.format(i, values),
          form -> {
            if (form == Form.HOST) {
              findings.add(
                  finding(FindingKind.MENTION, model, values, column, form.label(), whose), "");
            }
          });
    }
  }

  /** Roles and rights hang on names that begin with the copy's own prefix. */
  private void prefixes(TableModel model, List<Value> values) {
    if (!prefixes.differ()) {
      return;
    }
    model
        .prefixed()
        .forEach(
            (column, rule) -> {
              String name = values.get(column).display();
              String meant = rule.mapped(name, prefixes.from(), prefixes.into());
              if (!meant.equals(name)) {
                add(FindingKind.PREFIX, model, values, column, name + ", here " + meant);
              }
            });
  }

  /** Only what begins like a serialised value can claim to be one. */
  private void formats(TableModel model, List<Value> values) {
    for (int i = 0; i < values.size(); i++) {
      int column = i;
      if (values.get(i) instanceof Value.Text text && maybeStructured(text.utf8())) {
        Format format = model.format(i, values);
        if (format == Format.TEXT) {
          continue;
        }
        Rewriting.rewrite(
            text.utf8(),
            format,
            new Rewriting.Visitor() {
              @Override
              public boolean mayTouch(byte[] bytes) {
                return maybeStructured(bytes);
              }

              @Override
              public Optional<Weaver> text(Place place, byte[] bytes) {
                return Optional.empty();
              }

              @Override
              public void malformed(int offset, String what) {
                add(FindingKind.MALFORMED, model, values, column, what + " at byte " + offset);
              }
            });
      }
    }
  }

  private static boolean maybeStructured(byte[] bytes) {
    return bytes.length > 2
        && (bytes[1] == ':' && bytes[0] != 'h' || bytes[0] == '{' || bytes[0] == '[');
  }

  private void references(Look look, List<Value> values) throws IOException {
    TableModel model = look.model();
    for (Checked checked : look.references()) {
      Value referred = values.get(checked.column());
      boolean met = referred instanceof Value.Whole whole && checked.met().contains(whole.number());
      if (!met && !checked.reference().isUnset(List.of(referred))) {
        refer(model, values, checked.column(), checked.reference().target(), referred);
      }
    }
    if (model.inside().isEmpty()) {
      return;
    }
    for (Map.Entry<Integer, NumberPlaces> column : inside.of(model, values).entrySet()) {
      if (model.permanent().contains(column.getKey())) {
        // It names the row itself, by whatever number it once had.
        continue;
      }
      for (InsideReferences.Found found :
          InsideReferences.references(column.getValue(), values.get(column.getKey()))) {
        if (present.containsKey(found.table())) {
          refer(model, values, column.getKey(), found.table(), found.number());
        }
      }
    }
  }

  private void refer(TableModel model, List<Value> values, int column, String to, Value number)
      throws IOException {
    BigInteger wanted;
    if (number instanceof Value.Whole whole) {
      wanted = whole.number();
    } else if (number.display().matches("\\d{1,20}")) {
      wanted = new BigInteger(number.display());
    } else {
      return;
    }
    if (present.get(to).contains(wanted)) {
      return;
    }
    Waiting place =
        new Waiting(
            model.table().name(),
            key(model, values),
            model.table().columns().get(column).name(),
            model.role(values));
    if (!lookingUp && whole.contains(to)) {
      broken(new Target(to, wanted), place);
    } else if (!lookingUp && waitingCount < MOST_WAITING) {
      waiting.computeIfAbsent(new Target(to, wanted), unused -> new ArrayList<>()).add(place);
      waitingCount++;
    } else {
      Table shape = site.table(to).table();
      if (rows.count(shape, shape.key(), List.of(new Value.Whole(wanted))) == 0) {
        broken(new Target(to, wanted), place);
      }
    }
  }

  private void broken(Target target, Waiting place) {
    findings.add(
        new Finding(
            FindingKind.BROKEN_REFERENCE,
            place.table(),
            place.key(),
            place.column(),
            target.table() + " " + target.number(),
            place.role()),
        "");
  }

  private void doubled(TableModel model, List<Value> values) throws IOException {
    Optional<List<Value>> earlier = doubled.earlier(model, values);
    if (earlier.isPresent()) {
      String other = model.table().name() + " " + key(model, earlier.get());
      String advice =
          counterpart.advice(model, DoubledRows.lookUp(model, values), earlier.get(), values);
      int column = model.item().map(item -> item.name().get(0)).orElse(model.table().number());
      add(
          FindingKind.DOUBLED,
          model,
          values,
          column,
          "says the same as " + other + (advice.isEmpty() ? "" : "; " + advice));
    }
  }

  private void identity(TableModel model, List<Value> values) throws IOException {
    if (!model.isIdentified(values)) {
      return;
    }
    List<Value> identity = Table.pick(values, model.identity());
    boolean first =
        identities
            .computeIfAbsent(model.table().name(), unused -> new HashSetOfLongs())
            .add(Fnv.hash(identity));
    if (first && !lookingUp) {
      return;
    }
    String words = String.join(", ", identity.stream().map(Value::display).toList());
    String key = key(model, values);
    for (Row twin : rows.find(model.table(), model.identity(), identity, TWINS_LOOKED_AT)) {
      List<Value> other = twin.values();
      if (!key(model, other).equals(key) && model.isIdentified(other)) {
        add(
            FindingKind.DUPLICATE,
            model,
            values,
            model.identity().get(model.identity().size() - 1),
            "like " + model.table().name() + " " + key(model, other) + ": " + words);
        return;
      }
    }
  }

  /** Settles what could only be known when all tables were read. */
  public void finish() {
    waiting.forEach(
        (target, places) -> {
          if (!present.get(target.table()).contains(target.number())) {
            places.forEach(place -> broken(target, place));
          }
        });
    waiting.clear();
  }

  private void add(
      FindingKind kind, TableModel model, List<Value> values, int column, String what) {
    findings.add(finding(kind, model, values, column, what, model.role(values)), "");
  }

  private static Finding finding(
      FindingKind kind, TableModel model, List<Value> values, int column, String what, Role role) {
    return new Finding(
        kind,
        model.table().name(),
        key(model, values),
        model.table().columns().get(column).name(),
        what,
        role);
  }

  private static String key(TableModel model, List<Value> values) {
    return String.join(
        ", ", Table.pick(values, model.table().key()).stream().map(Value::display).toList());
  }
}
