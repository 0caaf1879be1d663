package weftex.cli.config;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;

class PasswordSourceTest {
  @TempDir Path folder;

  private Path file(String mode) throws Exception {
    Path file = Files.writeString(folder.resolve("secret"), "s3 crêt\n");
    return Files.setPosixFilePermissions(file, PosixFilePermissions.fromString(mode));
  }

  private CopySpec.Password printing(String script) {
    Map<String, String> environment = Map.of("PATH", "/usr/bin:/bin", "OTHER", "x", "LIVE", "y");
    return PasswordCommand.password(List.of("sh", "-c", script), environment, Set.of("LIVE"));
  }

  @Test
  void aFileOfOnesOwnIsRead() throws Exception {
    assertThat(PasswordSource.file(file("rw-------")).fetch()).isEqualTo("s3 crêt");
    assertThat(PasswordSource.file(file("r--------")).fetch()).isEqualTo("s3 crêt");
  }

  @ParameterizedTest
  @ValueSource(strings = {"rw-r--r--", "rw-r-----", "rw----r--"})
  void aFileThatOthersCanReadIsRefused(String mode) throws Exception {
    CopySpec.Password password = PasswordSource.file(file(mode));
    assertThatThrownBy(password::fetch)
        .isInstanceOf(Refusal.class)
        .hasMessageContaining("Others on this machine can read the file " + folder)
        .hasMessageContaining("Nothing was changed.");
  }

  @Test
  void aFileThatIsNotThereIsNamed() {
    assertThatThrownBy(PasswordSource.file(folder.resolve("none"))::fetch)
        .hasMessageContaining("none, which should hold a password, can't be read");
  }

  @Test
  void aProgramPrintsItOnceInARunAndIsToldNoOtherPassword() throws Exception {
    Path runs = folder.resolve("runs");
    CopySpec.Password password =
        printing("echo run >>'" + runs + "'; echo \"p a's$OTHER$LIVE\"; echo more");
    assertThat(password.fetch()).isEqualTo("p a'sx");
    assertThat(password.fetch()).isEqualTo("p a'sx");
    assertThat(runs).content().isEqualTo("run\n");
    assertThat(password.source()).isEqualTo("the command sh");
  }

  @Test
  void aProgramThatPrintsNoneIsNamedWithTheReason() {
    assertThatThrownBy(printing("exit 3")::fetch)
        .hasMessage(
            "The command 'sh', which should print a password, failed with exit status 3. Nothing was changed.");
    assertThatThrownBy(printing("true")::fetch).hasMessageContaining("printed nothing");
    assertThatThrownBy(printing("echo")::fetch).hasMessageContaining("printed nothing");
    assertThatThrownBy(
            PasswordCommand.password(List.of("no-such-program"), Map.of(), Set.of())::fetch)
        .hasMessageContaining("can't be run: there is no such program");
  }
}
