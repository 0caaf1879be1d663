package weftex.core.file;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import weftex.core.reference.PathPattern;
import weftex.core.row.Row;
import weftex.core.row.Value;
import weftex.core.site.Contents;
import weftex.core.site.SiteMap;
import weftex.core.site.TableModel;
import weftex.core.value.Node;
import weftex.core.value.Structure;

/**
 * Finds the files that rows name: by the columns that the site model says hold paths, by members of
 * structured values, and by links in texts to the site's own files.
 */
public final class NamedFiles {
  private final Optional<FileMentions> mentions;
  private final Map<String, PathPattern> patterns = new HashMap<>();

  /**
   * @param hosts by which the copies are known, in lower case
   */
  public NamedFiles(SiteMap site, Set<String> hosts) {
    this.mentions =
        site.linkedFiles().isEmpty()
            ? Optional.empty()
            : Optional.of(new FileMentions(site.linkedFiles(), hosts));
  }

  /** Takes a name as it was found, which may lead anywhere. */
  public interface Sink {
    void found(int column, String path);
  }

  /** Whether a model has anything that could name a file. */
  public boolean mayName(TableModel model, Row row) {
    return !model.contents().files().isEmpty()
        || mentions.isPresent() && row.holds(mentions.get()::mayBeIn);
  }

  /** The files that a row names, from the copy's folder, each once; harmless paths alone. */
  public Set<String> in(TableModel model, List<Value> row) {
    Set<String> paths = new LinkedHashSet<>();
    each(model, row, (column, path) -> SafePath.of(path).ifPresent(paths::add));
    return paths;
  }

  /** The same by the rules of columns alone: the files that are the row's own. */
  public Set<String> ownOf(TableModel model, List<Value> row) {
    Set<String> paths = new LinkedHashSet<>();
    ofRules(model, row, (column, path) -> SafePath.of(path).ifPresent(paths::add));
    return paths;
  }

  /** All that a row names, as it stands there. */
  public void each(TableModel model, List<Value> row, Sink sink) {
    ofRules(model, row, sink);
    if (mentions.isPresent()) {
      for (int i = 0; i < row.size(); i++) {
        Optional<byte[]> text = text(row.get(i));
        if (text.isPresent()) {
          for (String path : mentions.get().in(text.get())) {
            sink.found(i, path);
          }
        }
      }
    }
  }

  /** A text, also one in which numbers of rows are not known yet: those name no file. */
  private static Optional<byte[]> text(Value value) {
    if (value instanceof Value.Text text) {
      return Optional.of(text.utf8());
    }
    return value.isOpen() && !value.isNull()
        ? Optional.of(value.display().getBytes(StandardCharsets.UTF_8))
        : Optional.empty();
  }

  private void ofRules(TableModel model, List<Value> row, Sink sink) {
    for (Contents.NamedFile rule : model.contents().files()) {
      if (!rule.when().holdsFor(row) || !(row.get(rule.column()) instanceof Value.Text text)) {
        continue;
      }
      if (rule.path().isEmpty()) {
        String path = text.display();
        if (!path.isEmpty()) {
          sink.found(rule.column(), rule.under() + path);
        }
      } else {
        Structure.detect(text.utf8())
            .ifPresent(value -> inside(rule, value, path -> sink.found(rule.column(), path)));
      }
    }
  }

  private void inside(
      Contents.NamedFile rule, Structure value, java.util.function.Consumer<String> found) {
    Optional<String> folder = folder(rule, value);
    if (folder.isEmpty()) {
      return;
    }
    PathPattern path = pattern(rule.path());
    texts(
        value,
        value.root(),
        new ArrayList<>(),
        (at, text) -> {
          if (path.matches(at) && !text.isEmpty()) {
            found.accept(folder.get() + text);
          }
        });
  }

  /**
   * What stands before the names that a rule finds in a value, up to a slash; empty if nothing can.
   */
  static Optional<String> folder(Contents.NamedFile rule, byte[] value) {
    return Structure.detect(value).flatMap(structure -> folder(rule, structure));
  }

  private static Optional<String> folder(Contents.NamedFile rule, Structure value) {
    if (rule.beside().isEmpty()) {
      return Optional.of(rule.under());
    }
    PathPattern whose = new PathPattern(rule.beside());
    List<String> beside = new ArrayList<>();
    texts(
        value,
        value.root(),
        new ArrayList<>(),
        (at, text) -> {
          if (whose.matches(at)) {
            beside.add(text);
          }
        });
    return beside.stream()
        .findFirst()
        .map(of -> rule.under() + of.substring(0, of.lastIndexOf('/') + 1));
  }

  private PathPattern pattern(String written) {
    return patterns.computeIfAbsent(written, PathPattern::new);
  }

  private static void texts(
      Structure in, Node node, List<String> at, BiConsumer<List<String>, String> sink) {
    if (node.kind() == Node.Kind.TEXT) {
      sink.accept(at, new String(in.content(node), StandardCharsets.UTF_8));
    }
    for (int i = 0; i < node.values().size(); i++) {
      at.add(in.name(node, i));
      texts(in, node.values().get(i), at, sink);
      at.remove(at.size() - 1);
    }
  }
}
