package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** The key that the example signs with. */
final class DemoKey {

  /** Whose approval is signed. */
  private static final String SIGNER = "mira@skerrow.example";

  private DemoKey() {}

  /** Makes a key by which the demo's approver signs; false where there is no program for it. */
  static boolean makeKey(Path folder) throws IOException {
    try {
      int status =
          new ProcessBuilder(
                  "ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-C", SIGNER, "-f", "mira")
              .directory(folder.toFile())
              .redirectError(ProcessBuilder.Redirect.DISCARD)
              .redirectOutput(ProcessBuilder.Redirect.DISCARD)
              .start()
              .waitFor();
      if (status != 0) {
        return false;
      }
    } catch (IOException e) {
      return false;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
    String key = Files.readString(folder.resolve("mira.pub"));
    Files.writeString(folder.resolve("signers"), SIGNER + " " + key);
    return true;
  }
}
