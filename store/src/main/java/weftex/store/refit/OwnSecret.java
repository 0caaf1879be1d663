package weftex.store.refit;

import java.util.List;
import weftex.core.row.Value;

/** The secret values of a row of the target. */
final class OwnSecret {
  final List<Value> values;

  OwnSecret(List<Value> values) {
    this.values = values;
  }
}
