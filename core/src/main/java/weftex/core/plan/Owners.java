package weftex.core.plan;

import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.change.Item;
import weftex.core.change.Trace;
import weftex.core.reference.RowFinder;
import weftex.core.row.Row;
import weftex.core.row.Table;
import weftex.core.row.Value;
import weftex.core.site.ItemNaming;
import weftex.core.site.Parts;
import weftex.core.site.Reference;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;

/** Goes from a row to the thing that it is a part of, and says what that is called. */
final class Owners {
  /** Details of one page come together, so few rows need be kept. */
  private static final int KEPT = 500;

  /** A part of a part of a thing, and not much further: references may run in a circle. */
  static final int STEPS = 4;

  private static final int PATH_STEPS = 20;

  /** The year 5138 in seconds; what is larger counts thousandths. */
  private static final long LATEST_IN_SECONDS = 100_000_000_000L;

  private final SiteMap site;
  private final RowFinder source;
  private final RowFinder target;
  private final Map<List<Object>, Optional<Row>> found =
      new LinkedHashMap<>() {
        private static final long serialVersionUID = 1;

        @Override
        protected boolean removeEldestEntry(Map.Entry<List<Object>, Optional<Row>> eldest) {
          return size() > KEPT;
        }
      };

  Owners(SiteMap site, RowFinder source, RowFinder target) {
    this.site = site;
    this.source = source;
    this.target = target;
  }

  /** The row that another is a part of. */
  record Owner(TableModel model, Row row) {}

  /** A thing's own row, and what a row is of it. */
  private record Found(TableModel model, List<Value> row, String part) {}

  /**
   * The thing that a row is or belongs to; empty if the model names none.
   *
   * @param onSource whether the values are the source's, in whose terms its references are
   */
  Optional<Item> item(TableModel model, List<Value> values, boolean onSource) throws IOException {
    Optional<Found> found = found(model, values, onSource);
    return found.isEmpty()
        ? Optional.empty()
        : Optional.of(
            new Item(
                kind(found.get().model(), found.get().row(), onSource),
                name(found.get().model(), found.get().row()),
                found.get().part()));
  }

  private Optional<Found> found(TableModel model, List<Value> values, boolean onSource)
      throws IOException {
    String part = "";
    TableModel at = model;
    List<Value> row = values;
    for (int step = 0; step <= STEPS; step++) {
      Optional<Owner> up = owner(at, row, onSource);
      if (at.item().isPresent() && !(isThrough(at, row) && up.isPresent())) {
        return Optional.of(new Found(at, row, part));
      }
      if (up.isEmpty()) {
        return Optional.empty();
      }
      part = part(at, row, part);
      at = up.get().model();
      row = up.get().row().values();
    }
    return Optional.empty();
  }

  /**
   * Where the thing of a row is seen, and who worked on it.
   *
   * @param source the row on the source, in its terms; empty if it is not there
   * @param target the row on the target; empty if it is not there
   */
  Trace trace(TableModel model, List<Value> source, List<Value> target) throws IOException {
    if (site.tables().stream().noneMatch(m -> m.item().map(ItemNaming::traces).orElse(false))) {
      return Trace.NONE;
    }
    Optional<Found> there = source.isEmpty() ? Optional.empty() : found(model, source, true);
    Optional<Found> here = target.isEmpty() ? Optional.empty() : found(model, target, false);
    Trace.Touch bySource = there.isEmpty() ? Trace.Touch.UNKNOWN : touch(there.get(), true);
    Trace.Touch byTarget = here.isEmpty() ? Trace.Touch.UNKNOWN : touch(here.get(), false);
    String path =
        there.isPresent()
            ? path(there.get(), true)
            : here.isPresent() ? path(here.get(), false) : "";
    return new Trace(path, bySource, byTarget, "");
  }

  private Trace.Touch touch(Found found, boolean onSource) throws IOException {
    ItemNaming naming = found.model().item().orElseThrow();
    String by = naming.author().isEmpty() ? "" : person(found, naming.author().get(), onSource);
    String at = naming.changed().map(column -> time(found.row().get(column))).orElse("");
    return new Trace.Touch(by, at);
  }

  private String person(Found found, int column, boolean onSource) throws IOException {
    Optional<Reference> to = referenceBy(found.model(), column);
    Optional<Owner> person =
        to.isEmpty() ? Optional.empty() : follow(to.get(), found.row(), onSource);
    return person.isPresent() && person.get().model().item().isPresent()
        ? name(person.get().model(), person.get().row().values())
        : to.isPresent() ? "" : found.row().get(column).display();
  }

  private static Optional<Reference> referenceBy(TableModel model, int column) {
    return model.references().stream().filter(r -> r.columns().equals(List.of(column))).findFirst();
  }

  /** Written so that later times sort behind; whole numbers are seconds, or thousandths. */
  private static String time(Value value) {
    if (value instanceof Value.Whole whole && whole.number().bitLength() < 63) {
      long number = whole.number().longValue();
      return timeOf(number > LATEST_IN_SECONDS ? number / 1000 : number);
    }
    String text = value.isNull() ? "" : value.display().strip();
    return text.matches("\\d{4}-\\d\\d-\\d\\d[ T]\\d\\d:\\d\\d.*") && !text.startsWith("0000")
        ? text.substring(0, Math.min(19, text.length())).replace(' ', 'T')
        : "";
  }

  /**
   * A number of seconds since 1970 in UTC. The date follows Howard Hinnant's civil_from_days
   * (howardhinnant.github.io/date_algorithms.html).
   */
  private static String timeOf(long seconds) {
    long days = Math.floorDiv(seconds, 86_400L) + 719_468;
    long ofDay = Math.floorMod(seconds, 86_400L);
    long era = Math.floorDiv(days, 146_097L);
    long dayOfEra = Math.floorMod(days, 146_097L);
    long yearOfEra = (dayOfEra - dayOfEra / 1460 + dayOfEra / 36_524 - dayOfEra / 146_096) / 365;
    long dayOfYear = dayOfEra - (365 * yearOfEra + yearOfEra / 4 - yearOfEra / 100);
    long shifted = (5 * dayOfYear + 2) / 153;
    long month = shifted < 10 ? shifted + 3 : shifted - 9;
    return String.format(
        java.util.Locale.ROOT,
        "%04d-%02d-%02dT%02d:%02d:%02d",
        yearOfEra + era * 400 + (month <= 2 ? 1 : 0),
        month,
        dayOfYear - (153 * shifted + 2) / 5 + 1,
        ofDay / 3600,
        ofDay / 60 % 60,
        ofDay % 60);
  }

  private String path(Found found, boolean onSource) throws IOException {
    String path = "";
    TableModel at = found.model();
    List<Value> row = found.row();
    for (int step = 0; step <= PATH_STEPS; step++) {
      ItemNaming naming = at.item().orElseThrow();
      String own = naming.pathOf(row);
      if (own.isEmpty()) {
        return path;
      }
      path = "/" + own + path;
      Optional<Reference> up = naming.under().flatMap(column -> referenceBy(found.model(), column));
      Optional<Owner> parent = up.isEmpty() ? Optional.empty() : follow(up.get(), row, onSource);
      if (parent.isEmpty() || parent.get().model() != at) {
        return path;
      }
      row = parent.get().row().values();
    }
    return path;
  }

  /** A link between a thing and its part, and what the part is of, need no words of their own. */
  private static String part(TableModel model, List<Value> row, String inner) {
    Optional<Parts.Through> through = model.parts().through().filter(t -> t.when().holdsFor(row));
    if (through.isEmpty()) {
      return inner.isEmpty() ? model.parts().word() : inner;
    }
    String word = through.get().word();
    String name = model.item().map(item -> item.nameOf(row)).orElse("");
    return inner.isEmpty() ? word + (name.isEmpty() ? "" : " '" + name + "'") : word + " " + inner;
  }

  private static boolean isThrough(TableModel model, List<Value> row) {
    return model.parts().through().map(through -> through.when().holdsFor(row)).orElse(false);
  }

  private String kind(TableModel model, List<Value> row, boolean onSource) throws IOException {
    ItemNaming naming = model.item().orElseThrow();
    if (naming.kindIn().isEmpty()) {
      return naming.kindOf(row);
    }
    ItemNaming.KindIn in = naming.kindIn().get();
    Optional<TableModel> there = site.find(in.table());
    Optional<Row> user =
        there.isEmpty()
            ? Optional.empty()
            : find(there.get(), List.of(in.by()), Table.pick(row, model.table().key()), onSource);
    return user.map(other -> naming.word(other.values().get(in.column()).display()))
        .orElse(model.table().name());
  }

  /** What a row is called; its key if nothing else names it. */
  private static String name(TableModel model, List<Value> row) {
    String name = model.item().orElseThrow().nameOf(row);
    return name.isEmpty()
        ? String.join(
            ", ", Table.pick(row, model.table().key()).stream().map(Value::display).toList())
        : name;
  }

  /** The row that a row is a part of; empty if it is none, or if that is not there. */
  Optional<Owner> owner(TableModel model, List<Value> row, boolean onSource) throws IOException {
    if (isThrough(model, row)) {
      Optional<Owner> far = through(model, row, onSource);
      if (far.isPresent()) {
        return far;
      }
    }
    Optional<Reference> up = model.parts().of();
    return up.isEmpty() ? Optional.empty() : follow(up.get(), row, onSource);
  }

  private Optional<Owner> through(TableModel model, List<Value> row, boolean onSource)
      throws IOException {
    Parts.Through through = model.parts().through().orElseThrow();
    TableModel links = site.table(through.table());
    Optional<Row> link =
        find(links, List.of(through.from()), Table.pick(row, model.table().key()), onSource);
    return link.isEmpty() ? Optional.empty() : follow(through.to(), link.get().values(), onSource);
  }

  private Optional<Owner> follow(Reference up, List<Value> row, boolean onSource)
      throws IOException {
    List<Value> key = Table.pick(row, up.columns());
    if (up.isUnset(key)) {
      return Optional.empty();
    }
    TableModel model = site.table(up.target());
    return find(model, up.targetColumns(), key, onSource).map(owner -> new Owner(model, owner));
  }

  private Optional<Row> find(
      TableModel model, List<Integer> columns, List<Value> values, boolean onSource)
      throws IOException {
    List<Object> place = List.of(model.table().name(), columns, values, onSource);
    Optional<Row> known = found.get(place);
    if (known == null) {
      known =
          (onSource ? source : target).find(model.table(), columns, values, 1).stream().findFirst();
      found.put(place, known);
    }
    return known;
  }
}
