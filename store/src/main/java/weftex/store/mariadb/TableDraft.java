package weftex.store.mariadb;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import weftex.core.row.Column;
import weftex.store.database.Trigger;

/** A table while its parts are gathered. */
final class TableDraft {
  String engine = "";
  boolean versioned;
  final Set<String> periodColumns = new HashSet<>();
  final List<Column> columns = new ArrayList<>();
  final List<String> generated = new ArrayList<>();
  final Map<String, String> collations = new HashMap<>();
  String auto = "";
  final Map<String, List<String>> uniqueIndexes = new LinkedHashMap<>();
  final Map<String, MariaDbCatalog.ForeignKeyDraft> foreignKeys = new LinkedHashMap<>();
  final List<Trigger> triggers = new ArrayList<>();
}
