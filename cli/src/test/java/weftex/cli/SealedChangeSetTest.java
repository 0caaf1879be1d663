package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A change set that only two people can read. */
class SealedChangeSetTest {
  /** Words of a page that staging alone has. */
  private static final String CONTENT = "deckhands and a second engineer";

  private static final String PASSPHRASE = "harbour light";

  @TempDir Path folder;
  private Path home;

  @BeforeEach
  void make() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/ssh-keygen")), "there is no ssh-keygen");
    home = Files.createDirectory(folder.resolve("home"));
    keygen("mira", "");
    keygen("tor", PASSPHRASE);
    keygen("stranger", "");
    Path asking = folder.resolve("ask.sh");
    Files.writeString(
        asking, "#!/bin/sh\necho \"$1\" >>'" + folder + "/asked'\necho '" + PASSPHRASE + "'\n");
    Files.setPosixFilePermissions(asking, PosixFilePermissions.fromString("rwx------"));
    DemoPair.marked(folder).week();
  }

  private void keygen(String name, String passphrase) throws Exception {
    SshKeys.make(folder.resolve(name), name + "@skerrow.example", passphrase);
  }

  /** Runs the program as somebody who has one key, or none. */
  private Program.Ran weftex(String key, String... arguments) {
    return new Program(folder)
        .with("HOME", home.toString())
        .with("WEFTEX_OPEN_WITH", key)
        .with("SSH_ASKPASS", key.equals("tor") ? folder.resolve("ask.sh").toString() : "")
        .run(arguments);
  }

  private static Program.Ran done(Program.Ran ran) {
    assertThat(ran.status()).as(ran.out() + ran.err()).isLessThan(2);
    return ran;
  }

  private void refused(Program.Ran ran, String... what) {
    assertThat(ran.status()).as(ran.out()).isPositive();
    assertThat(ran.err()).containsIgnoringWhitespaces(what);
  }

  private Program.Ran draft(String... more) {
    List<String> words =
        new ArrayList<>(List.of("draft", "--seal-for", "mira.pub", "--seal-for", "tor.pub"));
    words.addAll(List.of(more));
    return done(weftex("mira", words.toArray(String[]::new)));
  }

  /** No file but the databases, and what was recorded of them, may have it in the clear. */
  private void nowhereInTheClear() throws IOException {
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        boolean isCopy = file.toString().contains(".db");
        if (!isCopy) {
          assertThat(new String(Files.readAllBytes(file), StandardCharsets.ISO_8859_1))
              .as(file.toString())
              .doesNotContain(CONTENT);
        }
      }
    }
  }

  @Test
  void itIsOpenedDecidedAndAppliedByItsReceiversAlone() throws Exception {
    assertThat(draft("-o", "set.sealed").out())
        .contains("Sealed for mira@skerrow.example, tor@skerrow.example: nobody else can read it.");
    nowhereInTheClear();
    refused(
        weftex("stranger", "review", "set.sealed", "--list"),
        "is sealed for mira@skerrow.example, tor@skerrow.example, and",
        "stranger does not open it. Nothing was changed.");
    refused(weftex("", "apply", "set.sealed"), "none of your usual keys opens it", "--open-with");
    assertThat(done(weftex("", "review", "set.sealed", "--list", "--open-with", "mira")).out())
        .contains("Next: weftex review set.sealed");
    Files.copy(
        folder.resolve("tor"), Files.createDirectory(home.resolve(".ssh")).resolve("id_rsa"));
    refused(
        weftex("", "review", "set.sealed", "--list"),
        "id_rsa is locked by a passphrase, and nobody is there to be asked for it");
    weftex("mira", "review", "set.sealed", "--keep", "conflicts");
    weftex("tor", "review", "set.sealed", "--skip", "open", "--why", "later: " + CONTENT);
    assertThat(folder.resolve("asked")).content().contains("Passphrase of ").hasLineCount(1);
    nowhereInTheClear();
    done(weftex("mira", "review", "set.sealed", "--approve", "--by", "Mira"));
    done(weftex("tor", "review", "set.sealed", "--approve", "--by", "Tor"));
    assertThat(done(weftex("tor", "review", "set.sealed", "--values")).out()).contains(CONTENT);
    assertThat(done(weftex("mira", "apply", "set.sealed")).out())
        .contains("Applied staging → live");
    assertThat(done(weftex("mira", "history")).out()).contains("approved by Mira, Tor");
    done(weftex("mira", "undo"));
  }

  @Test
  void whatComesOfASealedOneIsSealedForTheSame() throws Exception {
    draft();
    Path first = folder.resolve(".weftex/change-sets").toFile().listFiles()[0].toPath();
    assertThat(first.toString()).endsWith(".sealed");
    weftex("mira", "review", "--keep", "conflicts");
    assertThat(done(weftex("mira", "draft", "--again")).out())
        .contains("Sealed for mira@skerrow.example, tor@skerrow.example");
    done(weftex("tor", "review", "--list"));
    assertThat(weftex("mira", "report").err())
        .contains("The change set is sealed, and the report is not: --seal-for seals that, too.");
    assertThat(done(weftex("mira", "report", "--seal-for", "tor.pub", "-o", "r.age")).out())
        .contains("Sealed for tor@skerrow.example: 'age -d -i KEY' opens it.");
    assertThat(folder.resolve("r.age")).content().startsWith("-----BEGIN AGE ENCRYPTED FILE-----");
    done(weftex("mira", "draft", "--item", "harbour:*", "-o", "open.jsonl"));
    done(
        weftex(
            "mira", "draft", "--item", "sailing:*", "--seal-for", "mira.pub", "-o", "one.sealed"));
    refused(
        weftex("mira", "draft", "one.sealed", "--join", "open.jsonl", "-o", "both"),
        "The two change sets are not sealed for the same receivers. No change set was written.");
    done(
        weftex(
            "mira",
            "draft",
            "one.sealed",
            "--join",
            "open.jsonl",
            "-o",
            "both",
            "--seal-for",
            "mira.pub"));
    refused(weftex("stranger", "review", "both", "--list"), "is sealed for mira@skerrow.example");
    assertThat(done(weftex("mira", "draft", "--seal-for", "tor.pub", "-o", "his.sealed")).out())
        .contains("nobody else can read it, not even you with the keys that are known here.");
    // A key that is not there is no reason to say that nothing was written.
    assertThat(done(weftex("gone", "draft", "--seal-for", "tor.pub", "-o", "g.sealed")).out())
        .contains("not even you with the keys that are known here.");
    refused(
        weftex("mira", "draft", "--seal-for", "tor.pub", "--sign", "mira", "-o", "x.sealed"),
        "A draft that you sign must be sealed for a key of yours, too. No change set was written.");
    refused(
        weftex("mira", "draft", "--seal-for", "mira", "-o", "x.sealed"),
        "is a private key; a seal takes the public one. No change set was written.");
    assertThat(folder.resolve("x.sealed")).doesNotExist();
  }

  @Test
  void whateverIsDoneToItInBetweenIsSeen() throws Exception {
    draft("-o", "set.sealed");
    weftex("mira", "review", "set.sealed", "--keep", "conflicts");
    weftex("mira", "review", "set.sealed", "--skip", "open");
    done(weftex("mira", "review", "set.sealed", "--approve", "--by", "Mira"));
    Path set = folder.resolve("set.sealed");
    byte[] whole = Files.readAllBytes(set);
    // A further receiver would read what is decided from now on.
    String text = new String(whole, StandardCharsets.UTF_8);
    String stranger = Files.readString(folder.resolve("stranger.pub")).strip();
    Files.writeString(set, text.replaceFirst("\\]\\}\n", ",\"" + stranger + "\"]}\n"));
    for (String[] words :
        List.of(
            new String[] {"review", "set.sealed", "--skip", "1"},
            new String[] {"review", "set.sealed", "--list"},
            new String[] {"apply", "set.sealed"})) {
      byte[] before = Files.readAllBytes(set);
      refused(
          weftex("mira", words),
          "names other receivers than it was sealed for. Nothing was changed.");
      assertThat(Files.readAllBytes(set)).isEqualTo(before);
    }
    // The last part, which is the approval, is lost as a whole: then nobody approved it.
    int last = text.lastIndexOf("-----BEGIN AGE");
    Files.write(set, Arrays.copyOf(whole, text.substring(0, last).length()));
    refused(weftex("mira", "apply", "set.sealed"), "The change set is not approved.");
    // It is cut off in its middle.
    Files.write(set, Arrays.copyOf(whole, whole.length - 50));
    refused(
        weftex("mira", "apply", "set.sealed"),
        "ends in the middle of a sealed part: it was cut short. Nothing was changed.");
    assertThat(done(weftex("mira", "review", "set.sealed", "--list")).err())
        .containsIgnoringWhitespaces(
            "The last line of set.sealed had been cut off", "What was decided before it stands.");
    assertThat(Files.readAllBytes(set)).hasSize(last);
    // The draft itself is cut off.
    Files.write(set, Arrays.copyOf(whole, text.indexOf('\n') + 500));
    refused(weftex("mira", "review", "set.sealed", "--list"), "it was cut short");
    // A part is doubled.
    Files.writeString(set, text + text.substring(last));
    refused(weftex("mira", "apply", "set.sealed"), "what Mira approved is not what stands above");
    // A part is left out.
    int first = text.indexOf("-----BEGIN AGE");
    int second = text.indexOf("-----BEGIN AGE", first + 1);
    Files.writeString(set, text.substring(0, first) + text.substring(second));
    refused(weftex("mira", "apply", "set.sealed"), "this is not the header of a change set");
    Files.writeString(
        set,
        text.replaceFirst("sealed-change-set\",\"format\":1", "sealed-change-set\",\"format\":9"));
    refused(weftex("mira", "apply", "set.sealed"), "is sealed in format 9, and this version reads");
    // Whole again, it is what was approved.
    Files.write(set, whole);
    done(weftex("mira", "apply", "set.sealed"));
  }
}
