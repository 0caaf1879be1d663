/**
 * Runs a comparison of two copies against a base: {@link weftex.store.compare.ComparisonRun} opens
 * the three sides, {@link weftex.store.compare.Drafting} writes what was chosen into a change set.
 */
package weftex.store.compare;
