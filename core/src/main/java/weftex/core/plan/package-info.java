/**
 * From differences to a change set. {@link weftex.core.plan.Planner} is the door: it finds out
 * which added rows are the same thing or need another number ({@code Matching}), classifies each
 * difference by the merge table, checks references and unique keys, and puts the chosen changes in
 * an order in which the database takes them. {@link weftex.core.plan.Selection} says what is
 * chosen.
 */
package weftex.core.plan;
