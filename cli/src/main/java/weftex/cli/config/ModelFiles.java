package weftex.cli.config;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weftex.cli.siteconfig.SmallFile;
import weftex.core.model.SiteModel;
import weftex.core.yaml.Nearest;
import weftex.core.yaml.YamlProblem;

/** Finds site models by name: built in, or a file beside the one that names it. */
public final class ModelFiles {
  private ModelFiles() {}

  /**
   * Reads a model, and what it extends.
   *
   * @param folder where a file of that name would be
   * @return empty if there is no such model
   * @throws YamlProblem if it or one that it extends is wrong
   */
  public static Optional<SiteModel> find(Path folder, String name) throws IOException, YamlProblem {
    return find(folder, name, new ArrayList<>());
  }

  /** Reads a model file, and what it extends. */
  public static SiteModel read(Path file) throws IOException, YamlProblem {
    return read(file, new ArrayList<>());
  }

  /** What a model extends, by itself; empty if it extends none. */
  public static Optional<SiteModel> parent(SiteModel model, Path folder)
      throws IOException, YamlProblem {
    return model.parent().isEmpty() ? Optional.empty() : find(folder, model.parent());
  }

  private static Optional<SiteModel> find(Path folder, String name, List<Path> children)
      throws IOException, YamlProblem {
    if (name.equals("plain")) {
      return Optional.of(SiteModel.PLAIN);
    }
    if (SiteModel.builtIn().contains(name)) {
      return Optional.of(SiteModel.readBuiltIn(name));
    }
    Path file = folder.resolve(name);
    return Files.isRegularFile(file) ? Optional.of(read(file, children)) : Optional.empty();
  }

  private static SiteModel read(Path file, List<Path> children) throws IOException, YamlProblem {
    Path own = file.toAbsolutePath().normalize();
    children.add(own);
    SiteModel said = SiteModel.read(SmallFile.read(own));
    if (said.parent().isEmpty()) {
      return said;
    }
    Path folder = own.getParent();
    if (children.contains(folder.resolve(said.parent()).normalize())) {
      throw new YamlProblem(0, "it extends '" + said.parent() + "', which extends it in turn", "");
    }
    return find(folder, said.parent(), children)
        .orElseThrow(
            () ->
                new YamlProblem(
                    0,
                    "it extends the model '"
                        + said.parent()
                        + "', which is neither built in nor a file beside it",
                    Nearest.to(said.parent(), SiteModel.builtIn()).orElse("")))
        .extendedBy(said);
  }
}
