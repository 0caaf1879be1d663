package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** Files travel with the things that name them, week after week and both ways. */
class FilesOverWeeksTest {
  @TempDir Path folder;
  private DemoSite site;
  private SqliteFile staging;
  private SqliteFile live;

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

  private Path file(String copy, String name) {
    return folder.resolve("web").resolve(copy).resolve("media").resolve(name);
  }

  private void write(String copy, String name, String content) throws Exception {
    Path file = file(copy, name);
    Files.createDirectories(file.getParent());
    Files.writeString(file, content);
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private Program.Ran done(String... arguments) {
    Program.Ran ran = weftex(arguments);
    assertThat(ran.status()).as(ran.out() + ran.err()).isLessThan(2);
    return ran;
  }

  private Program.Ran merge(String... draft) {
    done(draft);
    for (int i = 0; i < 2; i++) {
      weftex("review", "--keep", "conflicts");
    }
    done("review", "--approve");
    return done("apply");
  }

  /** Every file of live with what it holds, and when it was written. */
  private Map<String, String> files(String copy) throws Exception {
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

  private String read(String copy, String name) throws Exception {
    return Files.readString(file(copy, name));
  }

  private void week() throws Exception {
    site.week();
    write("staging", "winter-timetable.jpg", "the first snow");
    write("live", "storm.jpg", "waves");
  }

  @Test
  void aPageComesWithItsPictureAndUndoTakesBoth() throws Exception {
    week();
    write("staging", "ramp.jpg", "a new ramp");
    Map<String, String> before = files("live");
    Program.Ran compared = done("compare");
    assertThat(compared.out())
        .contains("Files: 1 new, 1 to replace; 24 bytes.", "· added, 1 file added");
    assertThat(merge("draft").out()).contains("Files: 1 brought, 1 replaced");
    assertThat(read("live", "winter-timetable.jpg")).isEqualTo("the first snow");
    assertThat(read("live", "ramp.jpg")).isEqualTo("a new ramp");
    assertThat(read("live", "storm.jpg")).isEqualTo("waves");
    assertThat(weftex("apply").out()).contains("Nothing was done");
    assertThat(done("compare").out()).doesNotContain("Files:");
    assertThat(done("undo").out()).contains("Files: 1 removed, 1 with its old content.");
    assertThat(files("live")).isEqualTo(before);
    // And once more, as if nothing had been.
    assertThat(merge("draft").out()).contains("Files: 1 brought, 1 replaced");
  }

  @Test
  void aNewFolderGoesWithItsFile() throws Exception {
    site.week();
    write("staging", "2026/12/winter-timetable.jpg", "snow");
    staging.run(
        "UPDATE skf_pictures SET file = '2026/12/winter-timetable.jpg' WHERE file LIKE 'winter-t%'");
    Map<String, String> before = files("live");
    merge("draft", "--without", "settings");
    assertThat(read("live", "2026/12/winter-timetable.jpg")).isEqualTo("snow");
    done("undo");
    assertThat(files("live")).isEqualTo(before);
  }

  @Test
  void bothCopiesReplaceOnePicture() throws Exception {
    write("staging", "ramp.jpg", "staging's ramp");
    write("live", "ramp.jpg", "live's ramp");
    done("draft", "-o", "set.jsonl");
    assertThat(weftex("review", "set.jsonl", "--list").out())
        .contains("both-edited", "14 bytes, SHA-256 ", "11 bytes, SHA-256 ");
    assertThat(weftex("review", "set.jsonl", "--set", "1.content=x").err())
        .contains("Change 1 is a file, of which no value can be set.");
    done("review", "set.jsonl", "--keep", "1");
    done("review", "set.jsonl", "--approve");
    done("apply", "set.jsonl");
    assertThat(read("live", "ramp.jpg")).isEqualTo("live's ramp");
    // What was decided is not asked again, until staging replaces it once more.
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    write("staging", "ramp.jpg", "staging's newest ramp");
    done("draft", "-o", "again.jsonl");
    done("review", "again.jsonl", "--take", "1");
    done("review", "again.jsonl", "--approve");
    done("apply", "again.jsonl");
    assertThat(read("live", "ramp.jpg")).isEqualTo("staging's newest ramp");
    done("undo");
    assertThat(read("live", "ramp.jpg")).isEqualTo("live's ramp");
  }

  @Test
  void aNameThatLiveGaveAwayIsFollowedForWeeksBothWays() throws Exception {
    week();
    Files.move(file("live", "storm.jpg"), file("live", "winter-timetable.jpg"));
    live.run("UPDATE skf_pictures SET file = 'winter-timetable.jpg' WHERE file = 'storm.jpg'");
    Map<String, String> before = files("live");
    Program.Ran compared = done("compare");
    assertThat(compared.out())
        .contains("media/winter-timetable.jpg becomes media/winter-timetable-1.jpg");
    merge("draft");
    done("undo");
    assertThat(files("live")).isEqualTo(before);
    merge("draft");
    assertThat(read("live", "winter-timetable.jpg")).isEqualTo("waves");
    assertThat(read("live", "winter-timetable-1.jpg")).isEqualTo("the first snow");
    assertThat(live.ask("SELECT file FROM skf_pictures ORDER BY id"))
        .endsWith("winter-timetable.jpg", "winter-timetable-1.jpg");
    assertThat(live.ask("SELECT body FROM skf_pages WHERE slug = 'winter-timetable'").get(0))
        .contains("https://skerrow.example/media/winter-timetable-1.jpg\"");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    // The other way the name is staging's, so live's picture gets one.
    merge("draft", "--into", "staging", "--everything");
    assertThat(read("staging", "winter-timetable.jpg")).isEqualTo("the first snow");
    assertThat(read("staging", "winter-timetable-2.jpg")).isEqualTo("waves");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    // Replaced on staging under its name there, it is replaced on live under its name there.
    write("staging", "winter-timetable.jpg", "more snow");
    assertThat(merge("draft").out()).contains("Files: 1 replaced");
    assertThat(read("live", "winter-timetable-1.jpg")).isEqualTo("more snow");
    write("live", "winter-timetable.jpg", "higher waves");
    merge("draft", "--into", "staging");
    assertThat(read("staging", "winter-timetable-2.jpg")).isEqualTo("higher waves");
    assertThat(read("staging", "winter-timetable.jpg")).isEqualTo("more snow");
    staging.run(
        "UPDATE skf_pages SET body = body || ' <i>Mind the ice.</i>' WHERE slug = 'winter-timetable'");
    merge("draft");
    assertThat(live.ask("SELECT body FROM skf_pages WHERE slug = 'winter-timetable'").get(0))
        .contains("media/winter-timetable-1.jpg\"", "Mind the ice");
  }

  /** The page alone was chosen, and showed live's own picture of that name without a word. */
  @Test
  void aPageOfWhichOnePictureHasANameThatLiveGaveAwayIsAQuestion() throws Exception {
    staging.run(picture(60, "ferry.jpg"));
    write("staging", "ferry.jpg", "staging's ferry");
    staging.run(picture(62, "isle.jpg"));
    write("staging", "isle.jpg", "isle");
    live.run(picture(61, "ferry.jpg"));
    live.run(picture(62, "night.jpg"));
    write("live", "ferry.jpg", "live's");
    write("live", "night.jpg", "night");
    staging.run(
        "INSERT INTO skf_pages (id, slug, title, body, status, author_id) VALUES (90, 'isles', 'The isles', '<img class=\"picture-62\" src=\"https://staging.skerrow.example/media/isle.jpg\"> <img class=\"picture-60\" src=\"https://staging.skerrow.example/media/ferry.jpg\">', 'published', 1)");
    assertThat(done("draft", "--item", "page:The isles").out()).contains("1 conflict");
    assertThat(weftex("review").out())
        .containsIgnoringWhitespaces("both-added", "ferry.jpg", "15 bytes");
  }

  /** Its own conflict was never asked about, and asked about the other way round. */
  @Test
  void aFileOfAThingThatLiveKeepsIsSettledWithIt() throws Exception {
    staging.run("UPDATE skf_pictures SET caption = 'Staging' WHERE file = 'ramp.jpg'");
    write("staging", "ramp.jpg", "staging's ramp");
    live.run("UPDATE skf_pictures SET caption = 'Live' WHERE file = 'ramp.jpg'");
    write("live", "ramp.jpg", "live's new ramp");
    staging.run("UPDATE skf_pages SET title = 'Fares!' WHERE slug = 'fares'");
    done("draft");
    done("review", "--keep", "conflicts");
    done("review", "--approve");
    assertThat(done("apply").out()).doesNotContain("Files:");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    Program.Ran drafted = done("draft", "--into", "staging");
    assertThat(drafted.out()).contains("Files: 1 to replace; 15 bytes.").doesNotContain("conflict");
    done("review", "--approve");
    done("apply");
    assertThat(read("staging", "ramp.jpg")).isEqualTo("live's new ramp");
    assertThat(staging.ask("SELECT caption FROM skf_pictures WHERE file = 'ramp.jpg'"))
        .containsExactly("Live");
  }

  private static String picture(int id, String file) {
    return "INSERT INTO skf_pictures (id, file, caption, width, height) VALUES (%d, '%s', 'No. %d', 1, 1)"
        .formatted(id, file, id);
  }

  /** The older of two names was taken for the file's, and live's own picture overwritten. */
  @Test
  void aNameThatWasGivenAndGivenUpIsLivesOwnAgain() throws Exception {
    staging.run(picture(60, "ferry.jpg"));
    write("staging", "ferry.jpg", "first");
    live.run(picture(61, "ferry.jpg"));
    write("live", "ferry.jpg", "live's");
    merge("draft");
    assertThat(read("live", "ferry-1.jpg")).isEqualTo("first");
    // It goes, and live gives its name to a picture of its own.
    staging.run("DELETE FROM skf_pictures WHERE id = 60");
    Files.delete(file("staging", "ferry.jpg"));
    merge("draft");
    assertThat(file("live", "ferry-1.jpg")).doesNotExist();
    live.run(picture(90, "ferry-1.jpg"));
    write("live", "ferry-1.jpg", "live's second");
    // Another one of the old name gets a name of its own, and keeps it.
    staging.run(picture(70, "ferry.jpg"));
    write("staging", "ferry.jpg", "another");
    merge("draft");
    assertThat(read("live", "ferry-2.jpg")).isEqualTo("another");
    staging.run("UPDATE skf_pictures SET caption = 'Another' WHERE id = 70");
    write("staging", "ferry.jpg", "yet another");
    assertThat(merge("draft").out()).contains("Files: 1 replaced");
    assertThat(read("live", "ferry.jpg")).isEqualTo("live's");
    assertThat(read("live", "ferry-1.jpg")).isEqualTo("live's second");
    assertThat(read("live", "ferry-2.jpg")).isEqualTo("yet another");
    assertThat(live.ask("SELECT file FROM skf_pictures WHERE caption = 'Another'"))
        .containsExactly("ferry-2.jpg");
  }

  @Test
  void whatLiveDidMeanwhileStopsTheApplyAndStaysAtAnUndo() throws Exception {
    week();
    write("staging", "ramp.jpg", "a new ramp");
    done("draft", "--tables", "pictures");
    done("review", "--approve");
    write("live", "ramp.jpg", "live's ramp");
    Map<String, String> before = files("live");
    Program.Ran drifted = weftex("apply");
    assertThat(drifted.out())
        .contains("Not applied.", "file media/ramp.jpg: was replaced on live since");
    assertThat(files("live")).isEqualTo(before);
    assertThat(live.ask("SELECT COUNT(*) FROM skf_pictures WHERE file LIKE 'winter-t%'"))
        .containsExactly("0");
    write("live", "ramp.jpg", "ramp");
    write("staging", "winter-timetable.jpg", "it moved");
    assertThat(weftex("apply").err()).contains("is no longer what was reviewed");
    write("staging", "winter-timetable.jpg", "the first snow");
    done("apply");
    write("live", "ramp.jpg", "live's own again");
    assertThat(weftex("undo").out()).contains("file media/ramp.jpg was replaced on live since");
    assertThat(read("live", "ramp.jpg")).isEqualTo("live's own again");
    assertThat(file("live", "winter-timetable.jpg")).doesNotExist();
  }

  @Test
  void aFileThatAnotherPageLinksToMeanwhileStays() throws Exception {
    Files.delete(file("staging", "winter-sea.jpg"));
    staging.run("DELETE FROM skf_pictures WHERE file = 'winter-sea.jpg'");
    done("draft");
    assertThat(weftex("review", "--list").out()).contains("1 file removed");
    done("review", "--approve");
    live.run(
        "UPDATE skf_harbours SET guide = 'See /media/winter-sea.jpg before you sail' WHERE id = 2");
    assertThat(weftex("apply").out()).contains("media/winter-sea.jpg is named by a row of live");
    assertThat(read("live", "winter-sea.jpg")).isEqualTo("winter-sea");
    done("undo");
    live.run("UPDATE skf_harbours SET guide = '' WHERE id = 2");
    Map<String, String> before = files("live");
    merge("draft");
    assertThat(file("live", "winter-sea.jpg")).doesNotExist();
    done("undo");
    assertThat(files("live")).isEqualTo(before);
  }

  @Test
  void aLinkThatLeadsOutOfTheFolderIsNotFollowed() throws Exception {
    Path outside = Files.createDirectory(folder.resolve("outside"));
    Files.writeString(outside.resolve("secret.jpg"), "secret");
    Files.createSymbolicLink(file("staging", "in"), outside);
    Files.createSymbolicLink(file("staging", "one.jpg"), outside.resolve("secret.jpg"));
    staging.run(
        "UPDATE skf_pages SET body = '/media/in/secret.jpg /media/one.jpg' WHERE slug = 'home'");
    Program.Ran ran = weftex("draft");
    assertThat(ran.status()).isGreaterThan(1);
    assertThat(ran.err()).contains("leads out of", "by a link");
    Files.delete(file("staging", "in"));
    assertThat(done("draft").out()).contains("Rows name 2 files that staging does not have");
    merge("draft");
    assertThat(file("live", "one.jpg")).doesNotExist();
    // The folder itself may be elsewhere: whoever installed the site made it so.
    Path media = folder.resolve("web/staging/media");
    Files.move(media, folder.resolve("shared"));
    Files.createSymbolicLink(media, folder.resolve("shared"));
    write("staging", "ramp.jpg", "a new ramp");
    assertThat(merge("draft").out()).contains("Files: 1 replaced");
  }

  @Test
  void withoutAFolderRowsGoAlone() throws Exception {
    week();
    String yaml = Files.readString(folder.resolve("weftex.yaml"));
    Files.writeString(folder.resolve("weftex.yaml"), yaml.replace("web/live", "web/gone"));
    assertThat(done("compare").out())
        .containsIgnoringWhitespaces(
            "Files are not looked at: live's folder", "is not there on this machine.");
    Files.writeString(folder.resolve("weftex.yaml"), yaml);
    done("draft", "--without-files", "-o", "rows.jsonl");
    assertThat(weftex("review", "rows.jsonl", "--list").out()).doesNotContain("file added");
    done("draft", "-o", "all.jsonl");
    done("review", "all.jsonl", "--keep", "conflicts");
    done("review", "all.jsonl", "--keep", "conflicts");
    done("review", "all.jsonl", "--approve");
    Files.writeString(folder.resolve("weftex.yaml"), yaml.replace("web/live", "web/gone"));
    assertThat(weftex("apply", "all.jsonl").err())
        .contains("The change set brings 1 file, and live's folder")
        .contains("Nothing was changed.");
  }

  @Test
  void whatDifferedBeforeTheBaseIsAQuestionOnceItIsAskedFor() throws Exception {
    write("staging", "ramp.jpg", "staging's ramp");
    write("live", "festival.jpg", "live's festival");
    done("mark");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    write("live", "festival.jpg", "a newer one");
    Program.Ran drafted = done("draft", "--files", "media/*");
    assertThat(drafted.out()).contains("Files: 1 to replace; 14 bytes; 1 conflict.");
    assertThat(weftex("review").out())
        .containsIgnoringWhitespaces(
            "no-base: The copies had different files already when the base was recorded.");
    done("review", "--take", "conflicts");
    done("review", "--approve");
    done("apply");
    assertThat(read("live", "ramp.jpg")).isEqualTo("staging's ramp");
    // What live alone replaced since is not staging's to overwrite.
    assertThat(read("live", "festival.jpg")).isEqualTo("a newer one");
    assertThat(weftex("draft", "--files", "media/*").err())
        .contains("Nothing that was chosen differs");
  }

  @Test
  void filesThatNoRowNamesTravelIfTheyAreAskedFor() throws Exception {
    write("staging", "terms/2027.pdf", "terms");
    write("staging", "x.php", "run");
    write("staging", "ramp-again.jpg", "ramp");
    assertThat(weftex("draft").err()).contains("Nothing that was chosen differs");
    assertThat(done("scan", "staging", "--files").out())
        .contains(
            "No row names 3 files, 12 bytes:",
            "media/ramp-again.jpg",
            "The same is there more than once: 1 content, 4 bytes too many:",
            "media/ramp-again.jpg = media/ramp.jpg");
    Program.Ran drafted = done("draft", "--files", "media/terms/*,media/x*");
    assertThat(drafted.out())
        .contains("Files: 1 new; 5 bytes.")
        .containsIgnoringWhitespaces("Stays where it is: media/x.php; a program");
    Map<String, String> before = files("live");
    done("review", "--approve");
    done("apply");
    assertThat(read("live", "terms/2027.pdf")).isEqualTo("terms");
    assertThat(file("live", "x.php")).doesNotExist();
    done("undo");
    assertThat(files("live")).isEqualTo(before);
    merge("draft", "--files", "media/x.php");
    assertThat(read("live", "x.php")).isEqualTo("run");
  }
}
