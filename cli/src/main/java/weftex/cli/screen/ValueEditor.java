package weftex.cli.screen;

import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import java.util.Optional;
import weftex.cli.config.InMemory;
import weftex.core.change.ChangeSetHeader;
import weftex.core.changeset.WrittenValue;
import weftex.core.row.Value;

/** Lets a reviewer write a value in an editor of their own. */
final class ValueEditor {
  private final Map<String, String> environment;
  private final boolean sealed;

  /**
   * @param sealed whether the value may not be written to a disk
   */
  ValueEditor(Map<String, String> environment, boolean sealed) {
    this.environment = environment;
    this.sealed = sealed;
  }

  /**
   * What came of it.
   *
   * @param value the new value; null if there is none
   * @param sentence why there is none
   */
  record Edited(Value value, String sentence) {}

  /**
   * Runs the editor on a value, on the terminal that the process has.
   *
   * @param column what the column holds
   */
  Edited edit(ChangeSetHeader.ColumnType column, Value current) throws IOException {
    var refusal = WrittenValue.refusal(column, current);
    if (refusal.isPresent()) {
      return new Edited(null, refusal.get());
    }
    String before = current.isNull() ? "" : current.display();
    Optional<Path> folder = sealed ? InMemory.folder(environment) : Optional.of(temporary());
    if (folder.isEmpty()) {
      return new Edited(
          null,
          "The change set is sealed, and an editor would need the value in a file: this machine has"
              + " no folder in memory for that. Nothing was decided.");
    }
    Path file =
        Files.createTempFile(
            folder.get(),
            "weftex-" + column.name().replaceAll("[^A-Za-z0-9_-]", "_") + "-",
            before.contains("</") ? ".html" : ".txt",
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    // Of a sealed value nothing stays, whatever comes of it.
    try {
      return edit(column, current, before, file);
    } finally {
      if (sealed) {
        Files.deleteIfExists(file);
      }
    }
  }

  private Path temporary() {
    return Path.of(System.getProperty("java.io.tmpdir"));
  }

  private Edited edit(ChangeSetHeader.ColumnType column, Value current, String before, Path file)
      throws IOException {
    Files.writeString(file, before, StandardCharsets.UTF_8);
    String command = environment.getOrDefault("VISUAL", environment.getOrDefault("EDITOR", "vi"));
    int status;
    try {
      // An editor may be given with options, so it is the shell's to take apart.
      status =
          new ProcessBuilder("sh", "-c", command + " \"$1\"", "sh", file.toString())
              .inheritIO()
              .start()
              .waitFor();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return new Edited(null, "The editor was interrupted; nothing was decided.");
    }
    if (status != 0) {
      Files.deleteIfExists(file);
      return new Edited(
          null, "'" + command + "' ended with status " + status + "; nothing was decided.");
    }
    return read(column, current, before, file);
  }

  private Edited read(ChangeSetHeader.ColumnType column, Value current, String before, Path file)
      throws IOException {
    String after;
    try {
      after = Files.readString(file, StandardCharsets.UTF_8);
    } catch (CharacterCodingException e) {
      return new Edited(null, "What was written is no UTF-8" + kept(file));
    }
    // Editors close the last line.
    if (after.endsWith("\n") && !before.endsWith("\n")) {
      after = after.substring(0, after.length() - 1);
    }
    if (after.equals(before)) {
      Files.deleteIfExists(file);
      return new Edited(null, "The value was left as it is; nothing was decided.");
    }
    try {
      Value value = WrittenValue.parse(column, current, after);
      Files.deleteIfExists(file);
      return new Edited(value, "");
    } catch (IllegalArgumentException e) {
      return new Edited(
          null, e.getMessage() + (sealed ? "" : " What you wrote is in " + file + "."));
    }
  }

  private String kept(Path file) {
    return sealed ? "." : "; it is still in " + file + ".";
  }
}
