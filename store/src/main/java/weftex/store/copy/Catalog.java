package weftex.store.copy;

import java.util.Collection;
import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * What is in a copy.
 *
 * @param server the server's name and version
 * @param tables by name without prefix, in the order of names
 * @param otherTables how many tables there are whose names do not begin with the prefix
 * @param notHandled what looks like a table and is not compared, by name without prefix: what it is
 */
public record Catalog(
    String server,
    Map<String, CatalogTable> tables,
    int otherTables,
    Map<String, String> notHandled) {

  /** The table in which Weftex keeps what it applied; no part of the site. */
  public static final String LEDGER = "weftex_ledger";

  public Catalog {
    tables = Collections.unmodifiableMap(new TreeMap<>(tables));
    notHandled = Collections.unmodifiableMap(new TreeMap<>(notHandled));
  }

  /** The same, with some tables as they will be. */
  Catalog with(Map<String, CatalogTable> grown) {
    Map<String, CatalogTable> all = new TreeMap<>(tables);
    all.putAll(grown);
    return new Catalog(server, all, otherTables, notHandled);
  }

  public Optional<CatalogTable> find(String name) {
    return Optional.ofNullable(tables.get(name));
  }

  public Collection<CatalogTable> all() {
    return tables.values();
  }
}
