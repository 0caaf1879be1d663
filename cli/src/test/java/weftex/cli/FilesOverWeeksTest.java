package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Files travel with the things that name them, week after week and both ways. */
class FilesOverWeeksTest extends SiteWithFiles {
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
}
