package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** A demo site on files of SQLite, with a folder of files beside each copy. */
abstract class SiteWithFiles {
  @TempDir Path folder;
  DemoSite site;
  SqliteFile staging;
  SqliteFile live;

  @BeforeEach
  void makeTheSite() throws Exception {
    site = new DemoSite(folder);
    site.build();
    for (String name :
        new String[] {"harbour-brae", "mv-selkie", "ramp", "festival", "winter-sea"}) {
      write("live", name + ".jpg", name);
      write("staging", name + ".jpg", name);
    }
    Files.writeString(
        folder.resolve("weftex.yaml"),
        """
        site: skerrow
        model: %s
        copies:
          staging: {sqlite: staging.db, prefix: skf_, address: 'https://staging.skerrow.example', folder: web/staging}
          live: {sqlite: live.db, prefix: skf_, address: 'https://skerrow.example', folder: web/live}
        """
            .formatted(DemoSite.MODEL));
    staging = new SqliteFile(folder.resolve("staging.db"));
    live = new SqliteFile(folder.resolve("live.db"));
    assertThat(weftex("mark").out()).contains("Files that rows name: 5, ");
  }

  Path file(String copy, String name) {
    return folder.resolve("web").resolve(copy).resolve("media").resolve(name);
  }

  void write(String copy, String name, String content) throws Exception {
    Path file = file(copy, name);
    Files.createDirectories(file.getParent());
    Files.writeString(file, content);
  }

  Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  Program.Ran done(String... arguments) {
    Program.Ran ran = weftex(arguments);
    assertThat(ran.status()).as(ran.out() + ran.err()).isLessThan(2);
    return ran;
  }

  Program.Ran merge(String... draft) {
    done(draft);
    for (int i = 0; i < 2; i++) {
      weftex("review", "--keep", "conflicts");
    }
    done("review", "--approve");
    return done("apply");
  }

  /** Every file of live with what it holds, and when it was written. */
  Map<String, String> files(String copy) throws Exception {
    Map<String, String> files = new TreeMap<>();
    try (Stream<Path> all = Files.walk(folder.resolve("web").resolve(copy))) {
      for (Path one : (Iterable<Path>) all::iterator) {
        files.put(
            folder.relativize(one).toString(),
            Files.isDirectory(one)
                ? "folder"
                : Files.readString(one)
                    + " "
                    + Files.getLastModifiedTime(one)
                    + " "
                    + Files.getPosixFilePermissions(one));
      }
    }
    return files;
  }

  String read(String copy, String name) throws Exception {
    return Files.readString(file(copy, name));
  }

  void week() throws Exception {
    site.week();
    write("staging", "winter-timetable.jpg", "the first snow");
    write("live", "storm.jpg", "waves");
  }

  static String picture(int id, String file) {
    return "INSERT INTO skf_pictures (id, file, caption, width, height) VALUES (%d, '%s', 'No. %d', 1, 1)"
        .formatted(id, file, id);
  }

  /** The older of two names was taken for the file's, and live's own picture overwritten. */
}
