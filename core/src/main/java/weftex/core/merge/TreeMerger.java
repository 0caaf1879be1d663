package weftex.core.merge;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.core.value.Composer;
import weftex.core.value.Node;
import weftex.core.value.Structure;

/**
 * Three-way merge of structured values. Members are matched by their keys; a list is a sequence,
 * merged as one, unless its order means nothing. The result is in the target's order, with what the
 * source added behind.
 */
final class TreeMerger {
  private final ValueMerger merger;
  private final Optional<Structure> base;
  private final Structure source;
  private final Structure target;
  private final boolean sourceWins;
  private final List<String> clashes;

  TreeMerger(
      ValueMerger merger,
      Optional<Structure> base,
      Structure source,
      Structure target,
      boolean sourceWins,
      List<String> clashes) {
    this.merger = merger;
    this.base = base;
    this.source = source;
    this.target = target;
    this.sourceWins = sourceWins;
    this.clashes = clashes;
  }

  /** Merges; empty if a back reference makes places matter, so that members can't be moved. */
  Optional<byte[]> merge(List<String> path) {
    if (base.map(Structure::hasBackReferences).orElse(false)
        || source.hasBackReferences()
        || target.hasBackReferences()) {
      return Optional.empty();
    }
    return Optional.of(node(path, base.map(Structure::root), source.root(), target.root()));
  }

  private byte[] node(List<String> path, Optional<Node> b, Node s, Node t) {
    String was = b.map(this::inBase).orElse("");
    String here = source.canonical(s);
    String there = target.canonical(t);
    if (here.equals(was) || here.equals(there)) {
      return target.raw(t);
    }
    if (there.equals(was)) {
      return source.raw(s);
    }
    boolean alike =
        !merger.isUnit(path)
            && s.kind() == t.kind()
            && b.map(node -> node.kind() == t.kind()).orElse(true);
    if (alike && t.isContainer() && source.head(s).equals(target.head(t))) {
      boolean lists =
          source.isList(s)
              && target.isList(t)
              && b.map(node -> base.orElseThrow().isList(node)).orElse(true);
      return lists ? list(path, b, s, t) : members(path, b, s, t);
    }
    if (alike && b.isPresent() && t.kind() == Node.Kind.TEXT) {
      List<String> inner = new ArrayList<>();
      Optional<byte[]> merged =
          merger.mergeAt(
              path,
              base.orElseThrow().content(b.get()),
              source.content(s),
              target.content(t),
              sourceWins,
              inner);
      if (merged.isPresent()) {
        inner.forEach(clash -> clashes.add(named(path, clash)));
        return target.text(t, merged.get());
      }
    }
    clashes.add(named(path, ""));
    return sourceWins ? source.raw(s) : target.raw(t);
  }

  private String inBase(Node node) {
    return base.orElseThrow().canonical(node);
  }

  private static String named(List<String> path, String passage) {
    String keys = String.join(" › ", path);
    boolean inner = passage.startsWith(keys) && !keys.isEmpty();
    return passage.isEmpty() ? keys : keys.isEmpty() || inner ? passage : keys + ": " + passage;
  }

  private byte[] members(List<String> path, Optional<Node> b, Node s, Node t) {
    Map<String, Integer> inBase = b.map(node -> base.orElseThrow().index(node)).orElse(Map.of());
    Map<String, Integer> inSource = source.index(s);
    Map<String, Integer> inTarget = target.index(t);
    Map<String, Composer.Member> merged = new LinkedHashMap<>();
    inTarget.forEach(
        (key, at) -> {
          Node there = t.values().get(at);
          byte[] name = target.raw(t.keys().get(at));
          Optional<Node> was =
              Optional.ofNullable(inBase.get(key)).map(i -> b.get().values().get(i));
          Integer from = inSource.get(key);
          List<String> member = with(path, key);
          if (from != null) {
            merged.put(
                key, new Composer.Member(name, node(member, was, s.values().get(from), there)));
          } else if (was.isEmpty()
              || kept(member, inBase(was.get()), target.canonical(there), !sourceWins)) {
            merged.put(key, new Composer.Member(name, target.raw(there)));
          }
        });
    inSource.forEach(
        (key, at) -> {
          if (inTarget.containsKey(key)) {
            return;
          }
          Node here = s.values().get(at);
          Integer was = inBase.get(key);
          boolean keep =
              was == null
                  || kept(
                      with(path, key),
                      inBase(b.get().values().get(was)),
                      source.canonical(here),
                      sourceWins);
          if (keep) {
            merged.put(key, new Composer.Member(source.raw(s.keys().get(at)), source.raw(here)));
          }
        });
    return Composer.compose(target, t, List.copyOf(merged.values()));
  }

  /**
   * Whether a member stays that the other side removed: only if this side changed it, which is a
   * clash, and wins.
   */
  private boolean kept(List<String> path, String was, String is, boolean thisSideWins) {
    if (was.equals(is)) {
      return false;
    }
    clashes.add(named(path, ""));
    return thisSideWins;
  }

  private static List<String> with(List<String> path, String key) {
    List<String> longer = new ArrayList<>(path);
    longer.add(key);
    return longer;
  }

  private byte[] list(List<String> path, Optional<Node> b, Node s, Node t) {
    MergedItems was =
        b.map(node -> MergedItems.of(base.orElseThrow(), node))
            .orElse(new MergedItems(List.of(), List.of(), List.of()));
    MergedItems here = MergedItems.of(source, s);
    MergedItems there = MergedItems.of(target, t);
    List<byte[]> merged =
        merger.isSet(path) ? set(was, here, there) : sequence(path, was, here, there);
    return Composer.composeList(target, t, merged);
  }

  private static List<byte[]> set(MergedItems was, MergedItems here, MergedItems there) {
    List<byte[]> merged = new ArrayList<>();
    for (int i = 0; i < there.size(); i++) {
      String item = there.names.get(i);
      boolean removedHere = was.names.contains(item) && !here.names.contains(item);
      if (!removedHere) {
        merged.add(there.raw.get(i));
      }
    }
    for (int i = 0; i < here.size(); i++) {
      String item = here.names.get(i);
      if (!was.names.contains(item) && !there.names.contains(item)) {
        merged.add(here.raw.get(i));
      }
    }
    return merged;
  }

  private List<byte[]> sequence(
      List<String> path, MergedItems was, MergedItems here, MergedItems there) {
    List<byte[]> merged = new ArrayList<>();
    List<MergedItems> sides = List.of(was, here, there);
    Chunks.merge(
        MergedItems.COMPARATOR,
        was,
        here,
        there,
        new Chunks.Sink() {
          @Override
          public void agreed(int side, Chunks.Stretch stretch, Chunks.Stretch base) {
            merged.addAll(sides.get(side).raw.subList(stretch.from(), stretch.to()));
          }

          @Override
          public void clash(Chunks.Stretch common, Chunks.Stretch ours, Chunks.Stretch theirs) {
            int length = theirs.length();
            if (common.length() != length || ours.length() != length || length == 0) {
              clashes.add(named(path, ""));
              MergedItems winner = sourceWins ? here : there;
              Chunks.Stretch stretch = sourceWins ? ours : theirs;
              merged.addAll(winner.raw.subList(stretch.from(), stretch.to()));
              return;
            }
            for (int i = 0; i < length; i++) {
              merged.add(
                  node(
                      with(path, String.valueOf(theirs.from() + i)),
                      Optional.of(was.nodes.get(common.from() + i)),
                      here.nodes.get(ours.from() + i),
                      there.nodes.get(theirs.from() + i)));
            }
          }
        });
    return merged;
  }
}
