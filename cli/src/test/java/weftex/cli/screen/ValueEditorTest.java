package weftex.cli.screen;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.change.ChangeSetHeader;
import weftex.core.row.Value;
import weftex.core.row.ValueKind;

@EnabledOnOs(OS.LINUX)
class ValueEditorTest {
  private static final ChangeSetHeader.ColumnType GUIDE =
      new ChangeSetHeader.ColumnType("guide", ValueKind.TEXT, 0, "text");

  @TempDir Path folder;

  private ValueEditor.Edited edit(boolean sealed, String ending) throws Exception {
    Path editor = folder.resolve("editor.sh");
    Files.writeString(
        editor,
        "#!/bin/sh\necho \"$1\" >'"
            + folder
            + "/seen'\nprintf 'Closed.' >\"$1\"\n"
            + ending
            + "\n");
    Files.setPosixFilePermissions(editor, PosixFilePermissions.fromString("rwx------"));
    Map<String, String> environment =
        Map.of("EDITOR", editor.toString(), "XDG_RUNTIME_DIR", folder.toString());
    return new ValueEditor(environment, sealed).edit(GUIDE, Value.text("Open."));
  }

  private Path seen() throws Exception {
    return Path.of(Files.readString(folder.resolve("seen")).strip());
  }

  @Test
  void aSealedValueIsWrittenToMemoryAloneAndNothingOfItStays() throws Exception {
    ValueEditor.Edited edited = edit(true, "");
    if (edited.value() == null) {
      assertThat(edited.sentence()).contains("no folder in memory", "Nothing was decided.");
      return;
    }
    assertThat(edited.value()).isEqualTo(Value.text("Closed."));
    assertThat(Files.getFileStore(seen().getParent()).type()).isEqualTo("tmpfs");
    assertThat(seen()).doesNotExist();
    assertThat(edit(true, "exit 1").sentence()).contains("ended with status 1");
    assertThat(seen()).doesNotExist();
    assertThat(edit(true, "printf '\\377' >\"$1\"").sentence()).endsWith("is no UTF-8.");
    assertThat(seen()).doesNotExist();
  }

  @Test
  void whatCouldNotBeTakenIsKeptWhereItIsNotSealed() throws Exception {
    assertThat(edit(false, "").value()).isEqualTo(Value.text("Closed."));
    assertThat(seen()).doesNotExist();
    assertThat(edit(false, "printf '\\377' >\"$1\"").sentence())
        .contains("it is still in " + seen());
    assertThat(seen()).exists();
    Files.delete(seen());
  }
}
