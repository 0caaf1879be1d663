package weftex.cli.report;

import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.MustacheException;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Base64;
import java.util.Map;

/**
 * A report as one page that needs nothing else. Everything is escaped, and the page itself says
 * that only its own script may run, by the script's hash.
 */
public final class HtmlReport {
  private HtmlReport() {}

  /** Writes the page. */
  public static void write(Report report, Writer out) throws IOException {
    String style = resource("report.css");
    String script = resource("report.js");
    try {
      Mustache.compiler()
          .withLoader(name -> new InputStreamReader(open(name + ".html"), StandardCharsets.UTF_8))
          .emptyStringIsFalse(true)
          .compile(resource("report.html"))
          .execute(
              Map.of(
                  "report", report,
                  "style", style,
                  "styleHash", hash(style),
                  "script", script,
                  "scriptHash", hash(script)),
              out);
    } catch (MustacheException e) {
      // The library wraps what the file's writer throws.
      if (e.getCause() instanceof IOException io) {
        throw io;
      }
      throw e;
    }
  }

  private static String hash(String text) {
    try {
      byte[] digest =
          MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
      return Base64.getEncoder().encodeToString(digest);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  private static InputStream open(String name) {
    return HtmlReport.class.getResourceAsStream("/weftex/cli/report/" + name);
  }

  private static String resource(String name) throws IOException {
    try (InputStream in = open(name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }
}
