package weftex.cli.page;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import weftex.store.capture.Capture;

/** Instants as a person reads them. */
public final class Times {

  /** Of what a base was recorded, and when. */
  public static String base(Capture base) {
    return base.copy() + " of " + shown(base.marked()) + (base.isWorkedOut() ? ", worked out" : "");
  }

  private static final DateTimeFormatter SHOWN =
      DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm 'UTC'").withZone(ZoneOffset.UTC);

  private Times() {}

  /** An ISO 8601 instant to the minute; any other text as it is. */
  public static String shown(String instant) {
    try {
      return SHOWN.format(Instant.parse(instant));
    } catch (DateTimeParseException e) {
      return instant;
    }
  }
}
