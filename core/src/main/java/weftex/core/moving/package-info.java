/**
 * What is noticed about values while they move from one copy to the other: {@link
 * weftex.core.moving.MovingValues}.
 */
package weftex.core.moving;
