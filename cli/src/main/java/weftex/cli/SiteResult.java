package weftex.cli;

import java.util.Map;

/** What became of a command on one site. */
record SiteResult(int site, Map<String, String> addresses, int status, Object result) {}
