package weftex.core.file;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weftex.core.address.AddressMap;
import weftex.core.address.CopyAddress;
import weftex.core.compare.RowMapping;
import weftex.core.row.Row;
import weftex.core.row.Value;
import weftex.core.site.Contents;
import weftex.core.site.TableModel;
import weftex.core.value.Format;
import weftex.core.value.Place;
import weftex.core.value.Rewriting;
import weftex.core.value.Weaver;

/**
 * Files that have another name on the target than on the source, since the target had given that to
 * another file. Whatever names them follows: columns, members of values, links in texts.
 */
public final class FileNameMap {
  /** Every file has one name on both copies. */
  public static final FileNameMap SAME = new FileNameMap(Map.of());

  private final Map<String, String> toTarget;
  private final Map<String, String> toSource = new LinkedHashMap<>();
  private final AddressMap links;
  private final List<byte[]> names;

  /**
   * @param toTarget paths on the source, and what they are on the target
   */
  public FileNameMap(Map<String, String> toTarget) {
    this.toTarget = new TreeMap<>(toTarget);
    toTarget.forEach((from, to) -> toSource.put(to, from));
    List<AddressMap.Pair> pairs = new ArrayList<>();
    this.toTarget.forEach(
        (from, to) -> {
          pairs.add(new AddressMap.Pair(from, to));
          if (!encoded(from).equals(from)) {
            pairs.add(new AddressMap.Pair(encoded(from), encoded(to)));
          }
        });
    this.links = AddressMap.of(CopyAddress.NONE, CopyAddress.NONE, pairs, false);
    this.names =
        pairs.stream().map(pair -> last(pair.from()).getBytes(StandardCharsets.UTF_8)).toList();
  }

  private static String encoded(String path) {
    return java.net.URLEncoder.encode(path, StandardCharsets.UTF_8)
        .replace("+", "%20")
        .replace("%2F", "/");
  }

  private static String last(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  public boolean isNothing() {
    return toTarget.isEmpty();
  }

  /** What a path of the source is on the target. */
  public String onTarget(String ofSource) {
    return toTarget.getOrDefault(ofSource, ofSource);
  }

  /** What a path of the target is on the source; empty if another file has that name there. */
  public Optional<String> onSource(String ofTarget) {
    String other = toSource.get(ofTarget);
    if (other != null) {
      return Optional.of(other);
    }
    return toTarget.containsKey(ofTarget) ? Optional.empty() : Optional.of(ofTarget);
  }

  /** All of it, in one line: two maps that say the same are equal in it. */
  public String words() {
    return toTarget.toString();
  }

  /**
   * Rows of the source in the target's terms, names of files included.
   *
   * @param others what else is mapped, and first
   * @param tables in the order of the comparison
   */
  public RowMapping over(RowMapping others, List<TableModel> tables) {
    if (isNothing()) {
      return others;
    }
    return new RowMapping() {
      @Override
      public Row map(int table, Row row) {
        Row mapped = others.map(table, row);
        return mapped.isPresent() && mapped.holds(FileNameMap.this::mayBeIn)
            ? renamed(tables.get(table), mapped)
            : mapped;
      }

      /** A name that both copies gave means another file on each. */
      @Override
      public Row ownOfOther(int table, Row ofOther) {
        return others.ownOfOther(table, ofOther);
      }

      @Override
      public Value thereAndBack(int table, List<Value> row, int column) {
        return others.thereAndBack(table, row, column);
      }

      @Override
      public boolean mayComeOtherwise(int table, Row row) {
        return others.mayComeOtherwise(table, row);
      }

      @Override
      public boolean isMadeUp(int table, List<Value> row) {
        return others.isMadeUp(table, row);
      }

      @Override
      public void moves(int table, Row row) throws IOException {
        others.moves(table, row);
      }
    };
  }

  private boolean mayBeIn(byte[] bytes, int from, int to) {
    for (byte[] name : names) {
      for (int at = from; at + name.length <= to; at++) {
        if (java.util.Arrays.equals(bytes, at, at + name.length, name, 0, name.length)) {
          return true;
        }
      }
    }
    return false;
  }

  private Row renamed(TableModel model, Row row) {
    List<Value> before = row.values();
    List<Value> values = new ArrayList<>(before);
    boolean changed = false;
    for (int i = 0; i < values.size(); i++) {
      if (before.get(i) instanceof Value.Text text && mayBeIn(text.utf8(), 0, text.utf8().length)) {
        Value renamed = renamed(model, before, i, text);
        changed |= !renamed.equals(text);
        values.set(i, renamed);
      }
    }
    return changed ? Row.of(row.key(), values) : row;
  }

  private Value renamed(TableModel model, List<Value> row, int column, Value.Text value) {
    List<FileNaming> namings = new ArrayList<>();
    for (Contents.NamedFile rule : model.contents().files()) {
      if (rule.column() == column && rule.when().holdsFor(row)) {
        FileNaming.of(rule, value.utf8()).ifPresent(namings::add);
      }
    }
    return Rewriting.rewrite(
            value.utf8(),
            model.contents().format(column, row),
            new Rewriting.Visitor() {
              @Override
              public boolean mayTouch(byte[] bytes) {
                return mayBeIn(bytes, 0, bytes.length);
              }

              @Override
              public Optional<Weaver> text(Place place, byte[] text) {
                for (FileNaming naming : namings) {
                  if (naming.isAt(place)) {
                    Optional<byte[]> name = naming.renamed(text, toTarget);
                    if (name.isPresent()) {
                      return name.map(Weaver::of);
                    }
                  }
                }
                Value.Text whole = new Value.Text(text);
                Value mapped = links.map(whole, Format.TEXT, form -> {});
                return mapped == whole
                    ? Optional.empty()
                    : Optional.of(Weaver.of(((Value.Text) mapped).utf8()));
              }
            })
        .map(woven -> woven.toValue(value))
        .orElse(value);
  }
}
