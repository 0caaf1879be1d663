package weftex.core.signoff;

/**
 * A decision taken back: the change set is as if it had never been made.
 *
 * @param decision which one, counted from 1 in the order of the file
 * @param by who takes it back
 * @param at when, as an ISO 8601 instant
 */
public record Withdrawal(int decision, String by, String at) {}
