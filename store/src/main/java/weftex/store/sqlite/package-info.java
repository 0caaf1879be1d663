/**
 * All that only SQLite knows: opening a file, its catalog and how it describes tables. {@code
 * SqliteDialect} is the door.
 */
package weftex.store.sqlite;
