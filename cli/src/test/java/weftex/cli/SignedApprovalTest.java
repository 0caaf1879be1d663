package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.demo.DemoSite;
import weftex.store.testing.ReceiptText;

/** A change set that two people have to sign, none of whom drafted it. */
class SignedApprovalTest {
  @TempDir Path folder;
  private Path set;

  @BeforeEach
  void make() throws Exception {
    assumeTrue(Files.isExecutable(Path.of("/usr/bin/ssh-keygen")), "there is no ssh-keygen");
    for (String name : List.of("mira", "tor", "ada", "stranger")) {
      keygen("-q", "-t", "ed25519", "-N", "", "-C", "", "-f", name);
    }
    Files.write(
        folder.resolve("signers"), List.of(line("mira", ""), line("tor", ""), line("ada", "")));
    DemoSite site = DemoPair.marked(folder);
    Files.writeString(
        folder.resolve("weftex.yaml"),
        "approvals: {people: 2, signers: signers, not-the-drafter: true}\n",
        StandardOpenOption.APPEND);
    site.week();
    set = folder.resolve("set.jsonl");
  }

  private String line(String name, String options) throws IOException {
    return name + "@skerrow.example " + options + Files.readString(folder.resolve(name + ".pub"));
  }

  private String keygen(String... words) throws IOException, InterruptedException {
    List<String> all = new java.util.ArrayList<>(List.of("ssh-keygen"));
    all.addAll(List.of(words));
    ProcessBuilder builder = new ProcessBuilder(all).directory(folder.toFile());
    Process process = builder.redirectErrorStream(true).start();
    process.getOutputStream().close();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    return process.waitFor() + " " + said;
  }

  private Program.Ran weftex(String... arguments) {
    return new Program(folder).run(arguments);
  }

  private Program.Ran done(String... arguments) {
    Program.Ran ran = weftex(arguments);
    assertThat(ran.status()).as(ran.out() + ran.err()).isLessThan(2);
    return ran;
  }

  private void draft(String... more) {
    List<String> words = new java.util.ArrayList<>(List.of("draft", "-o", "set.jsonl"));
    words.addAll(List.of(more));
    done(words.toArray(String[]::new));
    weftex("review", "set.jsonl", "--keep", "conflicts");
    weftex("review", "set.jsonl", "--skip", "open");
  }

  private Program.Ran approve(String name) {
    return weftex("review", "set.jsonl", "--approve", "--by", name, "--sign", name);
  }

  private void refused(String why) {
    Program.Ran ran = weftex("apply", "set.jsonl");
    assertThat(ran.status()).as(ran.out() + ran.err()).isPositive();
    assertThat(ran.err()).containsIgnoringWhitespaces(why, "Nothing was changed.");
  }

  @Test
  void twoOfThoseWhoseKeysCountAndWhoDidNotDraftIt() throws Exception {
    draft("--sign", "mira", "--by", "Mira");
    assertThat(weftex("review", "set.jsonl", "--approve", "--by", "Tor").err())
        .containsIgnoringWhitespaces(
            "weftex.yaml asks for signed approvals (signers). The change set was not approved.",
            "Add --sign and your key");
    assertThat(approve("stranger").err())
        .containsIgnoringWhitespaces(
            "The approval would not count: its key SHA256:",
            "is not in",
            "The change set was not approved.");
    refused("The change set is not approved.");
    assertThat(approve("tor").out())
        .contains(", signed.", "--approve --sign KEY, by 1 more person");
    refused("approved by tor@skerrow.example, and it takes 2 of the signers in");
    assertThat(approve("tor").status()).isZero();
    refused("approved by tor@skerrow.example, and it takes 2 of the signers in");
    assertThat(approve("mira").status()).isZero();
    refused("approved by tor@skerrow.example (mira@skerrow.example drafted it), and it takes 2");
    assertThat(approve("ada").status()).isZero();
    // A file that others own counts in place of the one that weftex.yaml names.
    Files.writeString(folder.resolve("theirs"), line("ada", "") + line("mira", ""));
    assertThat(weftex("apply", "set.jsonl", "--signers", "theirs").err())
        .containsIgnoringWhitespaces("approved by ada@skerrow.example", "2 of the signers in");

    assertThat(done("review", "set.jsonl", "--signatures", ".").out())
        .contains("Written to .: ")
        .containsPattern(" -s \\w[\\w-]*\\.sig < \\w");
    assertThat(done("review", "set.jsonl", "--signatures", "signed").out())
        .containsIgnoringWhitespaces(
            "Written to signed: draft, approval-1, approval-2, approval-3, approval-4; beside each its '.sig'.",
            "-s signed/draft.sig < signed/draft");
    Path statement = folder.resolve("signed/approval-4");
    ProcessBuilder verify =
        new ProcessBuilder(
                "ssh-keygen",
                "-Y",
                "verify",
                "-f",
                "signers",
                "-I",
                "ada@skerrow.example",
                "-n",
                "weftex",
                "-s",
                statement + ".sig")
            .directory(folder.toFile())
            .redirectInput(statement.toFile());
    assertThat(verify.start().waitFor()).isZero();
    assertThat(statement).content().startsWith("weftex approval\nsha256 ").endsWith("\nby ada\n");

    assertThat(done("apply", "set.jsonl").out()).contains("Applied staging → live");
    String receipt;
    try (var files = Files.list(folder.resolve(".weftex/receipts"))) {
      receipt = ReceiptText.of(files.filter(f -> f.toString().endsWith(".zst")).findFirst().get());
    }
    assertThat(receipt).contains("BEGIN SSH SIGNATURE");
    done("undo");
    done("history");
  }

  @Test
  void whatIsForgedCopiedOrOldDoesNotCount() throws Exception {
    draft("--sign", "mira", "--by", "Mira");
    assertThat(approve("tor").status()).isZero();
    String whole = Files.readString(set);
    String approval = whole.substring(whole.lastIndexOf("{\"approval\""));
    // A name exchanged with its seal made anew, and a signature of another approval.
    String at = approval.replaceFirst("(?s).*\"at\":\"([^\"]*)\".*", "$1");
    String sha256 = approval.replaceFirst("(?s).*\"sha256\":\"([^\"]*)\".*", "$1");
    var forged = weftex.core.signoff.Approval.unsigned("Ada", at, sha256);
    String signature = approval.replaceFirst("(?s).*\"signature\":\"([^\"]*)\".*", "$1");
    Files.writeString(
        set,
        whole.replace(
            approval,
            new String(
                weftex.core.changeset.DecisionLine.of(
                    forged.signed(signature.replace("\\n", "\n"))),
                StandardCharsets.UTF_8)));
    refused("the approval of Ada does not count: it is over something else");
    Files.writeString(
        set,
        whole.replace(
            approval,
            new String(weftex.core.changeset.DecisionLine.of(forged), StandardCharsets.UTF_8)));
    refused("the approval of Ada does not count: it is not signed");
    Files.writeString(set, whole);
    assertThat(approve("ada").status()).isZero();
    // Valid then, and not now.
    Files.writeString(
        folder.resolve("signers"),
        line("mira", "") + line("tor", "valid-before=\"20200101Z\" ") + line("ada", ""));
    refused("the key of tor@skerrow.example counted until 2020-01-01T00:00:00Z");
    Files.writeString(folder.resolve("signers"), line("tor", "") + line("ada", ""));
    refused("the draft's signature does not count: its key SHA256:");
    Files.writeString(folder.resolve("signers"), line("mira", "") + "tor ssh-ed25519 AAAA\n");
    refused("Line 2 of");
    Files.delete(folder.resolve("signers"));
    refused("The file of signers can't be read");
  }

  @Test
  void whoDraftedIsToldOnlyByASignature() throws Exception {
    draft();
    assertThat(approve("tor").status()).isZero();
    assertThat(approve("ada").status()).isZero();
    refused("nobody signed the draft, so that it can't be told who drafted it");
    Path yaml = folder.resolve("weftex.yaml");
    Files.writeString(yaml, Files.readString(yaml).replace(", not-the-drafter: true", ""));
    done("apply", "set.jsonl");
    // Clocks: an approval from tomorrow.
    Files.writeString(
        yaml, Files.readString(yaml).replace("signers: signers", "not-the-drafter: true"));
    assertThat(weftex("check").err())
        .containsIgnoringWhitespaces("'not-the-drafter' of 'approvals' needs 'signers'");
  }
}
