package weftex.store.compare;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import weftex.core.changeset.ChangeSetHeader;
import weftex.core.changeset.ChangeSetWriter;
import weftex.core.changeset.SchemaChange;
import weftex.core.plan.Plan;
import weftex.store.copy.SharedTable;
import weftex.store.state.Files0600;

/** Writes a plan into a change-set file. The file appears under its name only when it is whole. */
public final class Drafting {
  private Drafting() {}

  /**
   * Writes.
   *
   * @param site the site's name
   * @param at the time of drafting, as an ISO 8601 instant
   * @param tool the version that drafts
   */
  public static void write(
      Path file, ComparisonRun run, Plan plan, String site, String at, String tool)
      throws IOException {
    Path folder = file.toAbsolutePath().getParent();
    if (!Files.isDirectory(folder)) {
      Files0600.createFolder(folder);
    }
    Path partial = file.resolveSibling(file.getFileName() + ".partial");
    try (OutputStream out = Files0600.create(partial)) {
      ChangeSetWriter writer = new ChangeSetWriter(out, header(run, plan, site, at, tool));
      for (SchemaChange change : plan.schema()) {
        writer.write(change);
      }
      plan.forEach(writer::write);
      writer.finish();
    } catch (IOException e) {
      Files.deleteIfExists(partial);
      throw e;
    }
    Files.move(partial, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
  }

  private static ChangeSetHeader header(
      ComparisonRun run, Plan plan, String site, String at, String tool) {
    Set<String> touched = new LinkedHashSet<>(plan.tables());
    List<ChangeSetHeader.TableColumns> tables =
        run.site().tables().stream()
            .filter(model -> touched.contains(model.table().name()))
            .map(
                model -> {
                  SharedTable shared = run.shared(model.table().name());
                  return made(
                      ChangeSetHeader.TableColumns.of(model.table(), targetOnly(run, shared)),
                      plan.absent(model.table().name()));
                })
            .toList();
    return new ChangeSetHeader(
        site,
        run.source().name(),
        run.target().name(),
        run.target().spec().place(),
        run.base().map(base -> base.copy() + " of " + base.marked()),
        at,
        tool,
        tables);
  }

  private static ChangeSetHeader.TableColumns made(
      ChangeSetHeader.TableColumns table, Set<String> absent) {
    return new ChangeSetHeader.TableColumns(
        table.name(),
        table.key(),
        table.number(),
        table.columns().stream().filter(column -> !absent.contains(column.name())).toList(),
        table.others());
  }

  /** Every column that the target has beyond those that are compared. */
  private static List<String> targetOnly(ComparisonRun run, SharedTable shared) {
    return run.target().catalog().find(shared.name()).orElseThrow().table().columns().stream()
        .map(column -> column.name())
        .filter(name -> shared.target().table().position(name).isEmpty())
        .toList();
  }
}
