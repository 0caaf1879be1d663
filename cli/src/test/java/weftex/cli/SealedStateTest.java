package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;

/** A pair of which nothing that is kept can be read without a key. */
class SealedStateTest {
  /** Words of the site: of a page that staging alone has, of one that both have, of a picture. */
  private static final List<String> CONTENT =
      List.of("deckhands and a second engineer", "Skerrow Ferries", "Winter return to Hesk");

  @TempDir Path folder;
  private Path home;

  @BeforeEach
  void make() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/ssh-keygen")), "there is no ssh-keygen");
    home = Files.createDirectories(folder.resolve("home/.ssh")).getParent();
    SshKeys.make(home.resolve(".ssh/id_ed25519"), "mira@skerrow.example", "");
    SshKeys.make(folder.resolve("tor"), "tor@skerrow.example", "");
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).with("HOME", home.toString()).run(arguments);
  }

  private Program.Ran done(String... arguments) {
    Program.Ran ran = weftex(arguments);
    assertThat(ran.status()).as(ran.out() + ran.err()).isLessThan(2);
    return ran;
  }

  private void refused(Program.Ran ran, String... what) {
    assertThat(ran.status()).as(ran.out()).isEqualTo(2);
    assertThat(ran.err()).containsIgnoringWhitespaces(what);
  }

  private void say(String words) throws IOException {
    Files.writeString(folder.resolve("weftex.yaml"), words + "\n", StandardOpenOption.APPEND);
  }

  /** Which files of the state have content in the clear. */
  private List<String> clear() throws IOException {
    try (Stream<Path> files = Files.walk(folder.resolve(".weftex"))) {
      return files
          .filter(Files::isRegularFile)
          .filter(SealedStateTest::hasContent)
          .map(file -> folder.resolve(".weftex").relativize(file).toString())
          .sorted()
          .toList();
    }
  }

  private static boolean hasContent(Path file) {
    try {
      String text = new String(Files.readAllBytes(file), StandardCharsets.ISO_8859_1);
      return CONTENT.stream().anyMatch(text::contains);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  @Test
  void nothingIsEverWrittenInTheClear() throws Exception {
    DemoSite pair = DemoPair.paired(folder);
    say("sealed: true\nrestore-points: {before-apply: true}");
    done("mark");
    pair.week();
    String before = done("compare").out();
    assertThat(done("draft").out())
        .contains("Sealed for mira@skerrow.example: nobody else can read it.");
    done("review", "--take", "conflicts", "--by", "Mira");
    done("review", "--approve", "--by", "Mira");
    assertThat(done("apply").out()).contains("Applied staging → live");
    assertThat(done("compare").out()).isNotEqualTo(before);
    assertThat(done("history").out()).contains("Restore point: live of");
    done("save", "live");
    assertThat(clear()).isEmpty();
    try (Stream<Path> points = Files.list(folder.resolve(".weftex/restore-points"))) {
      assertThat(points).hasSize(2).allMatch(file -> file.toString().endsWith(".sql.zst.age"));
    }
    done("undo");
    assertThat(done("compare").out()).isEqualTo(before);
    done("restore", "live", "--yes", "skerrow");
    done("restore", "staging", "live", "--yes", "skerrow");
    assertThat(clear()).isEmpty();
    assertThat(done("compare").status()).isZero();
  }

  @Test
  void withoutAKeyNothingIsReadAndNothingIsWritten() throws Exception {
    DemoSite pair = DemoPair.paired(folder);
    say("sealed: true");
    done("mark");
    pair.week();
    Path mira = home.resolve(".ssh");
    Path away = Files.move(mira, folder.resolve("away"));
    for (String command : List.of("compare", "draft", "mark")) {
      refused(weftex(command), "state-key.sealed is sealed for mira@skerrow.example, and none of");
    }
    refused(weftex("compare", "--open-with", "tor"), "tor does not open it. Nothing was changed.");
    assertThat(done("compare", "--open-with", "away/id_ed25519").out()).contains("pages");
    Files.move(away, mira);
    Path key = folder.resolve(".weftex/state-key.sealed");
    Path kept = Files.move(key, folder.resolve("kept"));
    refused(weftex("compare"), "The key of the state folder, ", " is not there. Nothing was");
    refused(weftex("mark", "--although-different"), "is not there. Nothing was changed.");
    assertThat(key).doesNotExist();
    Files.move(kept, key);
    done("compare");
  }

  @Test
  void whoeverIsNamedLaterOpensWhatWasKeptBefore() throws Exception {
    DemoSite pair = DemoPair.paired(folder);
    say("sealed: [home/.ssh/id_ed25519.pub]");
    done("mark");
    pair.week();
    refused(weftex("compare", "--open-with", "tor"), "tor does not open it");
    String text = Files.readString(folder.resolve("weftex.yaml"));
    Files.writeString(
        folder.resolve("weftex.yaml"), text.replace("id_ed25519.pub]", "id_ed25519.pub, tor.pub]"));
    String mine = done("compare").out();
    assertThat(done("compare", "--open-with", "tor").out()).isEqualTo(mine);
    assertThat(done("draft", "--open-with", "tor").out())
        .contains("Sealed for mira@skerrow.example, tor@skerrow.example");
  }

  @Test
  void whatWasKeptBeforeIsEncryptedByTidy() throws Exception {
    DemoPair.marked(folder).week();
    done("draft");
    done("review", "--take", "conflicts", "--by", "Mira");
    done("review", "--approve", "--by", "Mira");
    done("apply");
    done("save", "live");
    String before = done("compare").out();
    String history = done("history").out();
    refused(weftex("save", "live", "-o", "x.sql.zst.age"), "would not be encrypted, as its name");
    say("sealed: true");
    assertThat(done("compare").out()).isEqualTo(before);
    assertThat(done("check").out())
        .containsIgnoringWhitespaces("in .weftex there are files in the clear, of before 'sealed'");
    assertThat(done("tidy").out()).contains("In the clear, and to be sealed: ", "1 draft stays");
    assertThat(done("tidy", "--yes").out()).contains("Encrypted ");
    assertThat(clear()).containsExactly("change-sets/" + draft());
    assertThat(done("compare").out()).isEqualTo(before);
    assertThat(done("history").out().replaceAll("(, | \\()[\\d.]+ (kB|bytes)\\)?", ""))
        .isEqualTo(
            history
                .replaceAll("(, | \\()[\\d.]+ (kB|bytes)\\)?", "")
                .replace(".sql.zst", ".sql.zst.age"));
    assertThat(done("undo").out()).contains("Undone on live");
  }

  private String draft() throws IOException {
    try (Stream<Path> drafts = Files.list(folder.resolve(".weftex/change-sets"))) {
      return drafts
          .map(file -> file.getFileName().toString())
          .filter(name -> name.endsWith(".jsonl"))
          .findFirst()
          .orElseThrow();
    }
  }

  @Test
  void badWordsAreSaidBeforeAnythingIsRead() throws Exception {
    DemoPair.paired(folder);
    String text = Files.readString(folder.resolve("weftex.yaml"));
    for (List<String> each :
        List.of(
            List.of("sealed: []", "'sealed' names nobody"),
            List.of("sealed: [none.pub]", "none.pub can't be read"),
            List.of("sealed: [tor]", "tor is a private key; a seal takes the public one"),
            List.of("sealed: [tor.pub]", "no key here opens that"))) {
      Files.writeString(folder.resolve("weftex.yaml"), text + each.get(0) + "\n");
      refused(weftex("mark"), each.get(1), "Nothing was changed.");
    }
    assertThat(folder.resolve(".weftex/base")).doesNotExist();
  }
}
