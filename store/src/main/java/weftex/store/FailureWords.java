package weftex.store;

import java.nio.file.AccessDeniedException;
import java.nio.file.NoSuchFileException;
import java.util.regex.Pattern;

/** What an exception of a driver or of the file system says, as a sentence of ours can quote it. */
public final class FailureWords {
  /**
   * What a driver puts before its words: the class of what it caught, and its own count of its
   * connections, which nobody can look up.
   */
  private static final Pattern BEFORE =
      Pattern.compile("^(?:(?:[a-z]\\w*\\.)+[A-Z]\\w*(?:Exception|Error): |\\(conn=\\d+\\) )+");

  private FailureWords() {}

  /** Why it failed, without names of classes and without a full stop. */
  public static String of(Throwable failure) {
    if (failure instanceof AccessDeniedException) {
      return "this user has no right to it";
    }
    if (failure instanceof NoSuchFileException missing) {
      return "there is no " + missing.getFile();
    }
    String said = failure.getMessage();
    Throwable cause = failure.getCause();
    if (cause != null && (said == null || said.equals(cause.toString()))) {
      // A wrapper that says nothing of its own.
      return of(cause);
    }
    String words =
        said == null ? "no reason is known" : BEFORE.matcher(said).replaceFirst("").strip();
    return words.endsWith(".") ? words.substring(0, words.length() - 1) : words;
  }
}
