/**
 * Decisions that nobody makes by hand at the moment: {@link weftex.core.decide.RuleBook} makes
 * those of standing rules, {@link weftex.core.decide.CarriedDecisions} takes those of an earlier
 * draft along as far as they still fit, {@link weftex.core.decide.Joining} puts two change sets
 * together.
 */
package weftex.core.decide;
