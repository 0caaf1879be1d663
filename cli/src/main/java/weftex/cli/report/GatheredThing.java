package weftex.cli.report;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A thing while its changes are gathered. */
final class GatheredThing {
  final List<Report.Change> changes = new ArrayList<>();
  String does = "updated";
  boolean open;
  final Map<String, Integer> standings = new LinkedHashMap<>();
}
