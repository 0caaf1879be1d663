package weftex.store.scratch;

import java.io.IOException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;

/** The process of a server: whether it goes on, and how it ends. */
final class ServerProcess {

  private ServerProcess() {}

  static int await(Process process) throws IOException {
    try {
      if (!process.waitFor(PrivateServer.PATIENCE_SECONDS, TimeUnit.SECONDS)) {
        process.destroyForcibly();
        return -1;
      }
      return process.exitValue();
    } catch (InterruptedException e) {
      process.destroyForcibly();
      Thread.currentThread().interrupt();
      throw new IOException("it was interrupted", e);
    }
  }

  static void pause() throws IOException {
    try {
      Thread.sleep(PrivateServer.PAUSE_MILLIS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException("it was interrupted", e);
    }
  }

  static void end(ProcessHandle server) {
    server.destroy();
    try {
      server.onExit().get(PrivateServer.PATIENCE_SECONDS, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (ExecutionException | TimeoutException e) {
      server.destroyForcibly();
    }
  }
}
