package weftex.cli.command;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.model.SiteModel;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;

class OwnSettingsTest {
  @TempDir Path folder;

  private Copy copy(String name, String rows) throws Exception {
    Path file = Files.createFile(folder.resolve(name + ".db"));
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE TABLE options (option_name TEXT, option_value TEXT)");
      statement.execute("INSERT INTO options VALUES " + rows);
    }
    return Copy.reach(new CopySpec.SqliteFile(name, "", file));
  }

  @Test
  void onlyWhatIsEachCopysOwnAndDiffersIsNamed() throws Exception {
    Copy staging = copy("staging", "('active_plugins', 'a'), ('template', 't'), ('blogname', 'x')");
    Copy live =
        copy(
            "live",
            "('active_plugins', 'b'), ('template', 't'), ('db_version', '5'), ('home', 'y')");
    assertThat(OwnSettings.differing(SiteModel.readBuiltIn("wordpress"), staging, live))
        .containsExactlyInAnyOrder("active_plugins", "db_version");
    assertThat(OwnSettings.differing(SiteModel.PLAIN, staging, live)).isEmpty();
  }
}
