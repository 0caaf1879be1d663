package weftex.cli.faults;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;

/**
 * The program as a process: the packaged one with its archive if the property {@code weftex.built}
 * names its folder, which starts three times as fast, or else the classes of this run.
 */
final class BuiltProgram {
  private final Path folder;
  private final List<String> wrapper = new ArrayList<>();

  BuiltProgram(Path folder) {
    this.folder = folder;
  }

  /** Runs the program through a shell command, which gets it as its arguments. */
  BuiltProgram through(String shellCommand) {
    wrapper.addAll(List.of("bash", "-c", shellCommand + "; exec \"$0\" \"$@\""));
    return this;
  }

  Process start(String... arguments) {
    String built = System.getProperty("weftex.built");
    List<String> command =
        new ArrayList<>(
            List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xlog:disable",
                "-Xlog:all=warning:stderr",
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-XX:-UsePerfData",
                "-Xshare:auto",
                "-Xmx256m"));
    if (built != null) {
      command.add("-XX:SharedArchiveFile=" + Path.of(built, "weftex.jsa"));
    }
    command.add("-cp");
    command.add(
        built == null
            ? System.getProperty("java.class.path")
            : Path.of(built, "weftex.jar").toString());
    command.add("weftex.cli.Main");
    command.addAll(List.of(arguments));
    command.addAll(0, wrapper);
    try {
      return new ProcessBuilder(command).directory(folder.toFile()).start();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  static Harbour.Run finish(Process process) {
    try {
      process.getOutputStream().close();
      CompletableFuture<String> err =
          CompletableFuture.supplyAsync(() -> text(process.getErrorStream()));
      String out = text(process.getInputStream());
      return new Harbour.Run(process.waitFor(), out, err.join());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  private static String text(InputStream in) {
    try (in) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      // A process that was killed may take its pipe along.
      return "";
    }
  }
}
