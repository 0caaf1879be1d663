package weftex.cli;

import weftex.cli.session.ExitStatus;

/** How something ended, and that in words for the log. */
record Ended(ExitStatus status, String words) {
  static Ended done(ExitStatus status) {
    return new Ended(status, "done");
  }
}
