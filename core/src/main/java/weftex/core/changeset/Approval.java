package weftex.core.changeset;

/**
 * An approval.
 *
 * @param by who
 * @param at when, as an ISO 8601 instant
 * @param sha256 of every byte of the file before the approval's own line, in hexadecimal
 */
public record Approval(String by, String at, String sha256) {}
