package weftex.cli.config;

/**
 * weftex.yaml as it is written; what is missing is null here and found by {@link PairReader}.
 *
 * @param site a name for the site; a base and a change set remember it
 * @param model {@code plain}, {@code wordpress}, or the path of a model file
 */
record PairFile(String site, String model, Copies copies) {

  /** The two copies. */
  record Copies(CopyEntry staging, CopyEntry live) {}

  /**
   * One copy: exactly one of {@code sqlite} and {@code mariadb}.
   *
   * @param sqlite path of the file, from the folder of weftex.yaml
   * @param prefix what table names begin with
   */
  record CopyEntry(String sqlite, ServerEntry mariadb, String prefix) {}

  /** A database on a MariaDB or MySQL server. */
  record ServerEntry(
      String host,
      Integer port,
      String database,
      String user,
      PasswordEntry password,
      Boolean tls) {}

  /** Where the password is: exactly one of these, or none for an empty one. */
  record PasswordEntry(String variable, String file, String phpConfig) {}
}
