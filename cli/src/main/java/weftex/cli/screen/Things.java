package weftex.cli.screen;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import weftex.cli.page.Visible;
import weftex.core.change.Item;
import weftex.core.change.Outline;
import weftex.core.change.SchemaChange;
import weftex.store.changeset.ChangeSetFile;

/** Gathers the changes of a change set into things, and things of a kind together. */
final class Things {
  private final Map<List<String>, Building> things = new LinkedHashMap<>();

  private static final class Building {
    private Thing.Does does = Thing.Does.UPDATED;
    private boolean renumbered;
    private final List<Integer> numbers = new ArrayList<>();
    private final StringBuilder search = new StringBuilder();
  }

  private Things() {}

  /** The things of a change set, by kind in the order in which kinds come up. */
  static List<Thing> of(ChangeSetFile index) {
    Things gathered = new Things();
    index.schema().forEach(gathered::add);
    index.outlines().forEach(gathered::add);
    return gathered.byKind();
  }

  private void add(SchemaChange change) {
    Building thing = at(change.item());
    thing.does = Thing.Does.CREATED;
    thing.numbers.add(change.id());
    thing.search.append(change.id()).append(' ').append(change.table()).append(' ');
  }

  private void add(Outline change) {
    Item item = change.thing();
    Building thing = at(item);
    thing.numbers.add(change.id());
    thing.renumbered |= change.renumbered();
    if (item.part().isEmpty()) {
      thing.does = Thing.Does.of(change.action());
    }
    thing
        .search
        .append(change.id())
        .append(' ')
        .append(change.table())
        .append(' ')
        .append(change.keyText())
        .append(' ')
        .append(change.trace().path())
        .append(' ')
        .append(item.part())
        .append(' ');
  }

  private static String oneLine(String text) {
    return text.indexOf('\n') < 0 ? text : text.replace('\n', ' ');
  }

  private Building at(Item item) {
    return things.computeIfAbsent(List.of(item.kind(), item.name()), unused -> new Building());
  }

  private List<Thing> byKind() {
    Map<String, List<Thing>> kinds = new LinkedHashMap<>();
    things.forEach(
        (key, thing) ->
            kinds
                .computeIfAbsent(key.get(0), unused -> new ArrayList<>())
                .add(
                    new Thing(
                        Visible.text(key.get(0)),
                        oneLine(Visible.text(key.get(1))),
                        thing.does,
                        List.copyOf(thing.numbers),
                        thing.renumbered,
                        (key.get(0) + " " + key.get(1) + " " + thing.search)
                            .toLowerCase(Locale.ROOT))));
    return kinds.values().stream().flatMap(List::stream).toList();
  }
}
