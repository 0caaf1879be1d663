package weftex.core.merge;

import java.util.List;
import org.eclipse.jgit.diff.Sequence;
import org.eclipse.jgit.diff.SequenceComparator;
import weftex.core.value.Node;
import weftex.core.value.Structure;

/** The values of a list, as they are written and in a form that tells equal ones. */
final class MergedItems extends Sequence {
  static final SequenceComparator<MergedItems> COMPARATOR =
      new SequenceComparator<>() {
        @Override
        public boolean equals(MergedItems one, int i, MergedItems other, int j) {
          return one.names.get(i).equals(other.names.get(j));
        }

        @Override
        public int hash(MergedItems items, int i) {
          return items.names.get(i).hashCode();
        }
      };

  final List<Node> nodes;
  final List<String> names;
  final List<byte[]> raw;

  MergedItems(List<Node> nodes, List<String> names, List<byte[]> raw) {
    this.nodes = nodes;
    this.names = names;
    this.raw = raw;
  }

  static MergedItems of(Structure in, Node list) {
    return new MergedItems(
        list.values(),
        list.values().stream().map(in::canonical).toList(),
        list.values().stream().map(in::raw).toList());
  }

  @Override
  public int size() {
    return names.size();
  }
}
