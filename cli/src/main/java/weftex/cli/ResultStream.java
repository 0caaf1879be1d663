package weftex.cli;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.util.Optional;

/** Standard output, which remembers why it could not be written to. */
final class ResultStream extends FilterOutputStream {
  private static final String READER_IS_GONE = "Broken pipe";

  private IOException failure;

  ResultStream(OutputStream out) {
    super(out);
  }

  @Override
  public void write(byte[] bytes, int from, int length) throws IOException {
    try {
      out.write(bytes, from, length);
    } catch (IOException e) {
      failure = e;
      throw e;
    }
  }

  /** Empty if all was written, or if whoever reads has read enough. */
  Optional<String> failure() {
    return Optional.ofNullable(failure)
        .map(IOException::getMessage)
        .filter(message -> !message.equals(READER_IS_GONE));
  }
}
