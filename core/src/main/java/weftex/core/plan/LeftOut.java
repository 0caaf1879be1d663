package weftex.core.plan;

import weftex.core.site.Role;

/**
 * Changes that are not chosen because of whose their rows are.
 *
 * @param role whose they are
 * @param kind what they are called, or their table's name
 * @param added how many rows would be added
 * @param updated how many would be updated
 * @param removed how many would be removed
 */
public record LeftOut(Role role, String kind, long added, long updated, long removed) {

  /** How many changes in all. */
  public long changes() {
    return added + updated + removed;
  }
}
