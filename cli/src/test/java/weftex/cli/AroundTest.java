package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The site's own commands around an apply: a holding page must come up, and never stay. */
class AroundTest {
  @TempDir Path folder;

  @BeforeEach
  void draft() throws Exception {
    DemoPair.marked(folder).week();
    weftex("draft");
    weftex("review", "--keep", "conflicts");
    Program.Ran approved = weftex("review", "--approve", "--by", "Mira");
    assertThat(approved.status()).as(approved.err()).isZero();
    Path step = folder.resolve("step");
    Files.writeString(
        step,
        """
        #!/bin/sh
        echo "$WEFTEX_MOMENT $WEFTEX_SITE $WEFTEX_FROM $WEFTEX_INTO $WEFTEX_OUTCOME ${WEFTEX_RECEIPT:+receipt} $*" >> log
        echo "said $1"
        case "$1" in no) exit 3 ;; long) sleep 60 ;; esac
        """);
    Files.setPosixFilePermissions(step, PosixFilePermissions.fromString("rwx------"));
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private void commands(String yaml) throws Exception {
    Files.writeString(folder.resolve("weftex.yaml"), yaml, StandardOpenOption.APPEND);
  }

  private List<String> log() throws Exception {
    Path log = folder.resolve("log");
    return Files.exists(log)
        ? Files.readAllLines(log).stream().map(String::strip).toList()
        : List.of();
  }

  private static final String ALL =
      """
      commands:
        before-apply: [[./step, first, "two words; $x"], [./step, second]]
        after-apply: [[./step, down]]
        after-undo: [[./step, undone]]
        on-failure: [[./step, tell]]
      """;

  @Test
  void theyRunInOrderAndAreToldWhatHappened() throws Exception {
    commands(ALL);
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).as(applied.err()).isZero();
    assertThat(applied.err()).contains("  before-apply: said first", "  after-apply: said down");
    assertThat(log())
        .containsExactly(
            "before-apply skerrow staging live   first two words; $x",
            "before-apply skerrow staging live   second",
            "after-apply skerrow staging live applied receipt down");
    assertThat(weftex("apply").out()).as("nothing is to be done").contains("Nothing was done.");
    assertThat(weftex("undo").status()).isZero();
    assertThat(log()).hasSize(4);
    assertThat(log().get(3)).isEqualTo("after-undo skerrow staging live undone receipt undone");
  }

  @Test
  void whereOneBeforeFailsNothingIsAppliedAndThePageGoesDown() throws Exception {
    commands(ALL.replace("./step, second", "./step, no"));
    Program.Ran refused = weftex("apply");
    assertThat(refused.status()).isEqualTo(4);
    assertThat(refused.err())
        .containsIgnoringWhitespaces(
            "step no' of before-apply ended with 3. Nothing was changed. Mend it, or take it out");
    assertThat(log())
        .extracting(line -> line.split(" ")[0])
        .containsExactly("before-apply", "before-apply", "after-apply", "on-failure");
    assertThat(log().get(2)).contains("refused");
    assertThat(weftex("history").out()).doesNotContain("apply");
  }

  @Test
  void oneThatHangsIsEnded() throws Exception {
    commands(ALL.replace("./step, second", "./step, long") + "  seconds: 1\n");
    assertThat(weftex("apply").err())
        .contains(
            "of before-apply was still running after 1 s, and was ended. Nothing was changed.");
    assertThat(log().get(2)).startsWith("after-apply");
  }

  @Test
  void oneAfterItThatFailsIsSaidThoughAllIsApplied() throws Exception {
    commands(ALL.replace("./step, down", "./step, no"));
    Program.Ran applied = weftex("apply");
    assertThat(applied.status()).isEqualTo(1);
    assertThat(applied.out()).contains("Applied staging → live");
    assertThat(applied.err()).contains("of after-apply ended with 3. See to it by hand.");
  }

  @Test
  void whatIsNoCommandIsNamed() throws Exception {
    commands("commands:\n  after-apply: [[]]\n");
    assertThat(weftex("check").err())
        .contains("a command of 'after-apply' is a list of words, the program first");
  }

  @Tag("full")
  @Test
  void thePageGoesDownAfterAnInterruptAndAtTheNextStartAfterAKill() throws Exception {
    commands(ALL.replace("./step, second", "./step, long"));
    for (boolean killed : new boolean[] {false, true}) {
      Files.deleteIfExists(folder.resolve("log"));
      Process apply = new Program(folder).start("apply");
      while (log().size() < 2) {
        Thread.sleep(50);
      }
      List<ProcessHandle> children = apply.descendants().toList();
      assertThat(weftex("apply").err()).contains("Another apply of skerrow is at work");
      if (killed) {
        apply.destroyForcibly().waitFor();
        assertThat(log()).hasSize(2);
        assertThat(weftex("check").err())
            .contains("An apply was killed before its after-apply commands had run.");
      } else {
        apply.destroy();
        apply.waitFor();
      }
      children.forEach(ProcessHandle::destroyForcibly);
      assertThat(log().get(2)).startsWith("after-apply skerrow").contains("interrupted");
      assertThat(weftex("check").err()).doesNotContain("after-apply");
    }
  }
}
