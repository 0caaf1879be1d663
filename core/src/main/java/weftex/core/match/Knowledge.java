package weftex.core.match;

import java.util.Set;

/**
 * What is known of the copies besides their rows.
 *
 * @param hosts by which they are known, in lower case
 * @param said which rows people say are the same thing, or are not
 * @param past what earlier merges made
 * @param evidence what the base stands on
 */
public record Knowledge(Set<String> hosts, Sameness said, PastMerges past, BaseEvidence evidence) {}
