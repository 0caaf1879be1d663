package weftex.core.scan;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.core.address.AddressMap;
import weftex.core.address.Form;
import weftex.core.address.MappedRows;
import weftex.core.model.Role;
import weftex.core.row.Row;
import weftex.core.row.Value;
import weftex.core.site.TableModel;
import weftex.core.value.Format;
import weftex.core.value.Place;
import weftex.core.value.Rewriting;
import weftex.core.value.Weaver;

/** Looks at the values of rows: addresses and prefixes of the other copy, and what is malformed. */
final class ValueScan {
  private final AddressMap leftovers;
  private final AddressMap hosts;
  private final MappedRows.Prefixes prefixes;
  private final Findings findings;

  ValueScan(OtherCopy other, Findings findings) {
    this.leftovers = other.addresses();
    this.hosts = other.mentions();
    this.prefixes = other.prefixes();
    this.findings = findings;
  }

  /**
   * Looks at a row.
   *
   * @param encoded whether an address may stand in it unseen
   */
  void row(TableModel model, Row row, boolean encoded) {
    List<Value> values = row.values();
    if (!leftovers.isNothing() && (encoded || row.holds(leftovers::mayTouch))) {
      leftovers(model, values);
    }
    if (!hosts.isNothing() && (encoded || row.holds(hosts::mayTouch))) {
      hosts(model, values);
    }
    prefixes(model, values);
    formats(model, values);
  }

  /** Looks at values alone: leftovers, and what is malformed. */
  void values(TableModel model, List<Value> values) {
    leftovers(model, values);
    prefixes(model, values);
    formats(model, values);
  }

  private void leftovers(TableModel model, List<Value> values) {
    // Where a copy lives is its own affair, even if it says where the other one lives.
    boolean own = model.stays(values);
    for (int i = 0; i < values.size(); i++) {
      List<Form> forms = new ArrayList<>();
      leftovers.map(values.get(i), model.contents().format(i, values), forms::add);
      // What identifies a row for the outside world is left alone on purpose.
      Role whose =
          own || model.handling().permanent().contains(i)
              ? Role.NOISE
              : model.ownership().role(values);
      for (Form form : forms) {
        findings.add(
            Finding.of(FindingKind.LEFTOVER, model, values, i, form.label(), whose), form.label());
      }
    }
  }

  private void hosts(TableModel model, List<Value> values) {
    Role whose = model.stays(values) ? Role.NOISE : model.ownership().role(values);
    for (int i = 0; i < values.size(); i++) {
      int column = i;
      hosts.map(
          values.get(i),
          model.contents().format(i, values),
          form -> {
            if (form == Form.HOST) {
              findings.add(
                  Finding.of(FindingKind.MENTION, model, values, column, form.label(), whose), "");
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
        .contents()
        .prefixed()
        .forEach(
            (column, rule) -> {
              String name = values.get(column).display();
              String meant = rule.mapped(name, prefixes.from(), prefixes.into());
              if (!meant.equals(name)) {
                findings.add(
                    Finding.of(
                        FindingKind.PREFIX, model, values, column, name + ", here " + meant));
              }
            });
  }

  /** Only what begins like a serialised value can claim to be one. */
  private void formats(TableModel model, List<Value> values) {
    for (int i = 0; i < values.size(); i++) {
      int column = i;
      if (values.get(i) instanceof Value.Text text && maybeStructured(text.utf8())) {
        Format format = model.contents().format(i, values);
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
                findings.add(
                    Finding.of(
                        FindingKind.MALFORMED, model, values, column, what + " at byte " + offset));
              }
            });
      }
    }
  }

  private static boolean maybeStructured(byte[] bytes) {
    return bytes.length > 2
        && (bytes[1] == ':' && bytes[0] != 'h' || bytes[0] == '{' || bytes[0] == '[');
  }
}
