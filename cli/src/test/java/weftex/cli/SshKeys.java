package weftex.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;

/** Keys of SSH, as its own program writes them. */
final class SshKeys {
  private SshKeys() {}

  /** Makes a key; the public half lies beside it. */
  static void make(Path file, String comment, String passphrase) throws Exception {
    Process process =
        new ProcessBuilder(
                "ssh-keygen",
                "-q",
                "-t",
                "ed25519",
                "-N",
                passphrase,
                "-C",
                comment,
                "-f",
                file.toString())
            .start();
    process.getOutputStream().close();
    assertThat(process.waitFor()).isZero();
  }
}
