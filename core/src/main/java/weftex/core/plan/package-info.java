/**
 * From differences to a change set. {@link weftex.core.plan.Planner} is the door: it classifies
 * each difference by the merge table, checks references and unique keys, and puts the chosen
 * changes in an order in which the database takes them.
 */
package weftex.core.plan;
