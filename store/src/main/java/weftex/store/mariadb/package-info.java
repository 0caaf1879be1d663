/**
 * All that only a MariaDB or MySQL server knows: logging in over a protected line, its catalog, how
 * it orders keys, digests ranges and describes tables. {@code MariaDbDialect} is the door.
 */
package weftex.store.mariadb;
