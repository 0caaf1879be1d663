package weftex.core.model;

import java.util.List;
import java.util.Map;

/**
 * Columns that are not merged like others.
 *
 * @param permanent columns that identify a row for the outside world: left alone where the target
 *     has the row
 * @param columns what others are
 */
public record HandlingRule(List<String> permanent, Map<String, ColumnRule> columns) {
  static final HandlingRule NONE = new HandlingRule(null, null);

  public HandlingRule {
    permanent = Joined.given(permanent);
    columns = Joined.given(columns);
  }

  HandlingRule extending(HandlingRule more) {
    return new HandlingRule(
        Joined.lists(permanent, more.permanent), Joined.maps(columns, more.columns));
  }
}
