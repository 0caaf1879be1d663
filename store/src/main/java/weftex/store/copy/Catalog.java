package weftex.store.copy;

import java.util.Collection;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * What is in a copy.
 *
 * @param server the server's name and version
 * @param tables by name without prefix, in the order of names
 * @param otherTables how many tables there are whose names do not begin with the prefix
 */
public record Catalog(String server, Map<String, CatalogTable> tables, int otherTables) {

  /** The table in which Weftex keeps what it applied; no part of the site. */
  public static final String LEDGER = "weftex_ledger";

  public Catalog {
    tables = java.util.Collections.unmodifiableMap(new TreeMap<>(tables));
  }

  public Optional<CatalogTable> find(String name) {
    return Optional.ofNullable(tables.get(name));
  }

  public Collection<CatalogTable> all() {
    return tables.values();
  }
}
