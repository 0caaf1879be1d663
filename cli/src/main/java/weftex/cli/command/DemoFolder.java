package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.apache.commons.cli.CommandLine;
import weftex.cli.session.Session;
import weftex.store.Refusal;
import weftex.store.state.Files0600;

/** The folder that the example is made in. */
final class DemoFolder {

  private static final String DEFAULT_FOLDER = "skerrow-demo";

  private DemoFolder() {}

  static Path folder(CommandLine line, Session session) throws Refusal, IOException {
    String name = line.getArgList().isEmpty() ? DEFAULT_FOLDER : line.getArgList().get(0);
    Path folder = session.folder().resolve(name).normalize();
    for (int i = 2; line.hasOption("keep") && Files.exists(folder); i++) {
      folder = session.folder().resolve(name + "-" + i).normalize();
    }
    if (Files.exists(folder)) {
      boolean ours = Files.exists(folder.resolve(DemoCommand.MARK));
      boolean empty = Files.isDirectory(folder) && isEmpty(folder);
      if (!ours && !empty) {
        throw new Refusal(
            Refusal.Kind.PROTECTED,
            folder + " is there already and was not made by the demo. Nothing was changed.",
            "Name another folder: weftex demo FOLDER.");
      }
      Files0600.delete(folder);
    }
    return folder;
  }

  static boolean isEmpty(Path folder) throws IOException {
    try (var files = Files.list(folder)) {
      return files.findAny().isEmpty();
    }
  }
}
