package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Files in one merge: what goes along, what is asked, and what stays out of it. */
class FilesInOneMergeTest extends SiteWithFiles {
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
