package weftex.cli.render;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.function.Consumer;
import weftex.cli.page.Page;
import weftex.cli.session.Terminal;

/** What is printed on a page of a hundred columns without styles. */
final class Printed {
  private static final int WIDTH = 100;

  private Printed() {}

  static String of(Consumer<Page> print) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    print.accept(
        new Page(
            new PrintStream(bytes, true, StandardCharsets.UTF_8),
            new Terminal(WIDTH, false, true, true, false, false)));
    return bytes.toString(StandardCharsets.UTF_8);
  }
}
