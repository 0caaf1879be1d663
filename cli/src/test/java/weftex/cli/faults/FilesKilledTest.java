package weftex.cli.faults;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.cli.Program;
import weftex.core.model.SiteModel;
import weftex.core.site.SiteMap;
import weftex.demo.DemoSite;
import weftex.store.apply.Applier;
import weftex.store.apply.Undoer;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.engine.CommitGate;
import weftex.store.file.Aside;
import weftex.store.file.CopyFiles;
import weftex.store.file.Folder;
import weftex.store.file.LocalFolder;
import weftex.store.file.PairFolders;
import weftex.store.file.SeenHashes;
import weftex.store.placing.FileAccess;
import weftex.store.receipt.Receipt;
import weftex.store.receipt.Receipts;
import weftex.store.seal.AtRest;
import weftex.store.seal.Keyring;

/**
 * A process that ends at any step on a folder leaves rows and files wholly before or wholly after,
 * once the next command has looked; nothing of its own stays in the folder.
 */
class FilesKilledTest {
  @TempDir Path folder;
  @TempDir Path kept;

  /** The end of the process, of which nothing more is heard. */
  private static final class Killed extends Error {
    private static final long serialVersionUID = 1;
  }

  /**
   * A folder on which the process ends at some step, just before or just after it is done.
   *
   * @param at the number of the step, from 0
   */
  private static Folder ending(Folder folder, int at, boolean afterwards, int[] steps) {
    return (Folder)
        Proxy.newProxyInstance(
            Folder.class.getClassLoader(),
            new Class<?>[] {Folder.class},
            (proxy, method, arguments) -> {
              if (method.getName().equals("close") || method.getName().equals("words")) {
                return method.invoke(folder, arguments);
              }
              int step = steps[0]++;
              if (step > at || step == at && !afterwards) {
                throw new Killed();
              }
              Object result;
              try {
                result = method.invoke(folder, arguments);
              } catch (InvocationTargetException e) {
                throw e.getCause();
              }
              if (step == at) {
                throw new Killed();
              }
              return result;
            });
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private void write(String copy, String name, String content) throws IOException {
    Path file = folder.resolve(copy).resolve("media").resolve(name);
    Files.createDirectories(file.getParent());
    Files.writeString(file, content);
  }

  private void sql(String file, String statement) throws Exception {
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve(file));
        Statement each = connection.createStatement()) {
      each.execute(statement);
    }
  }

  /** Everything that is in live's folder, and what its rows say. */
  private Map<String, String> state() throws Exception {
    Map<String, String> state = new TreeMap<>();
    try (Stream<Path> all = Files.walk(folder.resolve("live"))) {
      for (Path one : (Iterable<Path>) all::iterator) {
        state.put(
            folder.relativize(one).toString(),
            Files.isDirectory(one)
                ? "folder"
                : Files.readString(one) + Files.getLastModifiedTime(one).toMillis());
      }
    }
    try (Connection connection =
            DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("live.db"));
        Statement statement = connection.createStatement();
        var rows = statement.executeQuery("SELECT id, file FROM skf_pictures")) {
      while (rows.next()) {
        state.put("picture " + rows.getString(1), rows.getString(2));
      }
    }
    return state;
  }

  private static Map<String, String> withoutTimes(Map<String, String> state) {
    Map<String, String> without = new TreeMap<>(state);
    without.replaceAll((name, content) -> content.replaceFirst("\\d{13}$", ""));
    return without;
  }

  private void draft() throws Exception {
    DemoSite site = new DemoSite(folder);
    site.build();
    for (String name : List.of("harbour-brae", "mv-selkie", "ramp", "festival", "winter-sea")) {
      write("live", name + ".jpg", name);
      write("staging", name + ".jpg", name);
    }
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        model: %s
        copies:
          staging: {sqlite: staging.db, prefix: skf_, address: 'https://staging.skerrow.example', folder: staging}
          live: {sqlite: live.db, prefix: skf_, address: 'https://skerrow.example', folder: live}
        """
            .formatted(DemoSite.MODEL));
    assertThat(weftex("mark").err()).isEmpty();
    write("staging", "2026/new.jpg", "a new one");
    write("staging", "ramp.jpg", "another ramp");
    Files.delete(folder.resolve("staging/media/winter-sea.jpg"));
    sql("staging.db", "DELETE FROM skf_pictures WHERE file = 'winter-sea.jpg'");
    sql(
        "staging.db",
        "INSERT INTO skf_pictures (id, file, caption, width, height) VALUES (7, '2026/new.jpg', 'New', 1, 1)");
    assertThat(weftex("draft", "-o", "set.jsonl").err()).isEmpty();
    assertThat(weftex("review", "set.jsonl", "--approve").status()).isZero();
  }

  /** What is there before a run, to begin again from. */
  private void keep(String name) throws IOException {
    copy(folder, kept.resolve(name));
  }

  private void again(String name) throws IOException {
    for (String part : List.of("live", "staging", ".weftex")) {
      delete(folder.resolve(part));
    }
    copy(kept.resolve(name), folder);
  }

  private static void delete(Path path) throws IOException {
    try (Stream<Path> all = Files.walk(path)) {
      for (Path one : all.sorted(java.util.Comparator.reverseOrder()).toList()) {
        Files.delete(one);
      }
    }
  }

  private static void copy(Path from, Path to) throws IOException {
    try (Stream<Path> all = Files.walk(from)) {
      for (Path one : (Iterable<Path>) all::iterator) {
        Path there = to.resolve(from.relativize(one));
        if (Files.isDirectory(one)) {
          Files.createDirectories(there);
        } else {
          Files.copy(
              one, there, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.COPY_ATTRIBUTES);
        }
      }
    }
  }

  private FileAccess access(int at, boolean afterwards, int[] steps) {
    Path seen = folder.resolve("none.jsonl");
    Folder live = ending(new LocalFolder(folder.resolve("live"), List.of()), at, afterwards, steps);
    return new FileAccess(
        PairFolders.of(
            Map.of(
                "staging",
                new CopyFiles(
                    new LocalFolder(folder.resolve("staging"), List.of()),
                    SeenHashes.open(seen, "x"),
                    false),
                "live",
                new CopyFiles(live, SeenHashes.open(seen, "x"), false))),
        new Aside(folder.resolve(".weftex/files/aside"), AtRest.CLEAR),
        Set.of());
  }

  private Copy live() throws Exception {
    return Copy.reach(new CopySpec.SqliteFile("live", "skf_", folder.resolve("live.db")));
  }

  private SiteMap means(Copy copy) {
    try (InputStream in = Files.newInputStream(folder.resolve(DemoSite.MODEL))) {
      return SiteMap.resolve(
          SiteModel.read(new String(in.readAllBytes(), java.nio.charset.StandardCharsets.UTF_8)),
          copy.catalog().all().stream().map(table -> table.table()).toList());
    } catch (Exception e) {
      throw new IllegalStateException(e);
    }
  }

  private Receipts receipts() {
    return new Receipts(folder.resolve(".weftex/receipts"), Clock.systemUTC(), AtRest.CLEAR);
  }

  private interface Run {
    void with(FileAccess access) throws Exception;
  }

  /** Ends the run at each step; how many ended before and after. */
  private int[] endAtEachStep(
      String begun, Run run, Map<String, String> before, Map<String, String> after)
      throws Exception {
    int[] ended = new int[2];
    for (int at = 0; ; at++) {
      for (boolean afterwards : new boolean[] {false, true}) {
        again(begun);
        int[] steps = {0};
        boolean killed = false;
        try {
          run.with(access(at, afterwards, steps));
        } catch (Killed e) {
          killed = true;
        }
        if (!killed) {
          assertThat(withoutTimes(state())).isEqualTo(withoutTimes(after));
          return ended;
        }
        Program.Ran next = weftex("history");
        assertThat(next.status()).as(next.err()).isZero();
        Map<String, String> now = state();
        if (now.get("picture 5") == null == (before.get("picture 5") == null)) {
          assertThat(now).as("ended at step %d (%s)", at, afterwards).isEqualTo(before);
          ended[0]++;
        } else {
          assertThat(withoutTimes(now))
              .as("ended at step %d (%s)", at, afterwards)
              .isEqualTo(withoutTimes(after));
          ended[1]++;
        }
      }
    }
  }

  @Test
  void anApplyAndAnUndoThatEndAtAnyStep() throws Exception {
    draft();
    keep("drafted");
    Map<String, String> before = state();
    assertThat(weftex("apply", "set.jsonl").status()).isZero();
    Map<String, String> after = state();
    assertThat(after).containsKeys("live/media/2026/new.jpg");
    assertThat(after).doesNotContainKey("live/media/winter-sea.jpg");
    keep("applied");
    int[] applied =
        endAtEachStep(
            "drafted",
            access ->
                new Applier(receipts(), new CommitGate(), "test", "test")
                    .with(access)
                    .apply(
                        ChangeSetFile.readWhole(folder.resolve("set.jsonl"), Keyring.NONE),
                        "skerrow",
                        live(),
                        this::means,
                        false,
                        rows -> {}),
            before,
            after);
    assertThat(applied[0]).isGreaterThan(20);
    assertThat(applied[1]).isGreaterThan(5);
    int[] undone =
        endAtEachStep(
            "applied",
            access -> {
              Receipt receipt = receipts().all().get(0);
              Copy live = live();
              new Undoer(receipts(), new CommitGate(), "test", "test")
                  .with(() -> access)
                  .undo(receipt, live, means(live), Undoer.Terms.all(false, false), rows -> {});
            },
            after,
            before);
    assertThat(undone[0]).isGreaterThan(20);
    assertThat(undone[1]).isGreaterThan(5);
  }
}
