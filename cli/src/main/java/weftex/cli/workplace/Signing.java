package weftex.cli.workplace;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import weftex.cli.session.Session;
import weftex.core.changeset.ChangeSetContents;
import weftex.core.changeset.DecisionLine;
import weftex.core.signoff.Approval;
import weftex.core.signoff.DraftSignature;
import weftex.core.signoff.Statement;
import weftex.store.Refusal;
import weftex.store.changeset.ChangeSetFile;
import weftex.store.changeset.DecisionLog;
import weftex.store.signature.ApprovalRule;
import weftex.store.signature.KeySigner;

/** Signs drafts and approvals, and hands out what was signed. */
public final class Signing {
  private static final String SIGN = "sign";

  private Signing() {}

  /** The option that names a key. */
  public static Option option(String what) {
    return Option.builder()
        .longOpt(SIGN)
        .hasArg()
        .argName("KEY")
        .desc(what + " with this SSH key of yours (the public one if an agent holds it)")
        .get();
  }

  private static Optional<KeySigner> signer(CommandLine line, Session session, Workplace place) {
    return Optional.ofNullable(line.getOptionValue(SIGN))
        .map(
            key -> new KeySigner(session.folder().resolve(key), place.pair().commands().secrets()));
  }

  /**
   * Signs an approval, if that is asked for.
   *
   * @throws Refusal if it would not count, or can't be signed; nothing was written then
   */
  public static Approval approval(
      Approval approval, CommandLine line, Session session, Workplace place) throws Refusal {
    ApprovalRule rule = place.pair().approvals().rule(Optional.empty());
    Optional<KeySigner> signer = signer(line, session, place);
    if (signer.isEmpty() && rule.signers().isPresent()) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "weftex.yaml asks for signed approvals ("
              + place.shown(rule.signers().get().file())
              + "). The change set was not approved.",
          "Add --sign and your key, such as --sign ~/.ssh/id_ed25519.");
    }
    if (signer.isEmpty()) {
      return approval;
    }
    Approval signed =
        approval.signed(
            signer.get().sign(approval.statement(), "The change set was not approved."));
    rule.check(signed, session.clock().instant());
    return signed;
  }

  /** Signs a change set that was just drafted, if that is asked for. */
  public static void draft(Path file, CommandLine line, Session session, Workplace place)
      throws Refusal, IOException {
    Optional<KeySigner> signer = signer(line, session, place);
    if (signer.isEmpty()) {
      return;
    }
    String by = Reviewer.name(line, session);
    String draft = ChangeSetFile.read(file, place.keys()).contents().draft();
    String at = session.now();
    String signature =
        signer
            .get()
            .sign(
                new Statement("draft", draft, at, by),
                "The draft " + place.shown(file) + " is written, and not signed.");
    try (DecisionLog log = OpenLog.of(file, place, by, session)) {
      log.append(List.of(DecisionLine.of(new DraftSignature(by, at, draft, signature))));
    }
  }

  /**
   * Writes what was signed, and the signatures, for {@code ssh-keygen -Y verify}.
   *
   * @return the names of the statements
   */
  public static List<String> export(Path folder, ChangeSetContents contents) throws IOException {
    Files.createDirectories(folder);
    List<String> names = new ArrayList<>();
    if (contents.drafter().isPresent()) {
      DraftSignature drafter = contents.drafter().get();
      names.add(write(folder, "draft", drafter.statement(), drafter.signature()));
    }
    for (int i = 0; i < contents.approvals().size(); i++) {
      Approval approval = contents.approvals().get(i);
      if (approval.signature().isPresent()) {
        names.add(
            write(folder, "approval-" + (i + 1), approval.statement(), approval.signature().get()));
      }
    }
    return names;
  }

  private static String write(Path folder, String name, Statement statement, String signature)
      throws IOException {
    Files.write(folder.resolve(name), statement.bytes());
    Files.writeString(folder.resolve(name + ".sig"), signature + "\n", StandardCharsets.US_ASCII);
    return name;
  }
}
