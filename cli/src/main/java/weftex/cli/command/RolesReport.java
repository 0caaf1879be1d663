package weftex.cli.command;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import weftex.core.plan.LeftOut;
import weftex.core.plan.Plan;

/**
 * What of a plan is not content.
 *
 * @param leftOut what stays out because it is live's own or noise
 * @param brought what is live's own and goes along since it was asked for: how many rows, by kind
 */
public record RolesReport(List<Left> leftOut, Map<String, Long> brought) {

  /**
   * Changes that stay out.
   *
   * @param whose {@code live's own} or {@code noise}
   * @param kind what they are called, or their table
   */
  public record Left(String whose, String kind, long rows) {
    static Left of(LeftOut left) {
      return new Left(left.role().words(), left.kind(), left.changes());
    }
  }

  static RolesReport of(Plan plan) throws IOException {
    return new RolesReport(plan.leftOut().stream().map(Left::of).toList(), plan.brought());
  }
}
