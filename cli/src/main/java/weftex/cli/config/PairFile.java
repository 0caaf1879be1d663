package weftex.cli.config;

import com.fasterxml.jackson.annotation.JsonProperty;

/**
 * weftex.yaml as it is written.
 *
 * @param site a name for the site; a base and a change set remember it
 * @param model {@code plain}, {@code wordpress}, or the path of a model file
 */
record PairFile(
    @JsonProperty(required = true) String site,
    String model,
    @JsonProperty(required = true) Copies copies) {

  /** The two copies. */
  record Copies(
      @JsonProperty(required = true) CopyEntry staging,
      @JsonProperty(required = true) CopyEntry live) {}

  /**
   * One copy: exactly one of {@code sqlite} and {@code mariadb}.
   *
   * @param sqlite path of the file, from the folder of weftex.yaml
   * @param prefix what table names begin with
   */
  record CopyEntry(String sqlite, ServerEntry mariadb, String prefix) {}

  /** A database on a MariaDB or MySQL server. */
  record ServerEntry(
      @JsonProperty(required = true) String host,
      Integer port,
      @JsonProperty(required = true) String database,
      @JsonProperty(required = true) String user,
      PasswordEntry password,
      Boolean tls) {}

  /** Where the password is: exactly one of these, or none for an empty one. */
  record PasswordEntry(String variable, String file, String phpConfig) {}
}
