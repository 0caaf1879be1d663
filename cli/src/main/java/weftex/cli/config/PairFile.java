package weftex.cli.config;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.databind.annotation.JsonDeserialize;
import com.fasterxml.jackson.databind.annotation.JsonPOJOBuilder;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weftex.core.model.Role;

/**
 * weftex.yaml as it is written, by what its keys are about; what is missing is null here and found
 * by {@link PairReader}.
 *
 * @param site a name for the site; a base and a change set remember it
 * @param sites {@code all}, or the numbers of sites under one roof; one site alone if left out
 * @param scratch the server on which files of SQL are loaded
 */
@JsonDeserialize(builder = PairFile.Written.class)
record PairFile(
    String site,
    List<String> sites,
    Copies copies,
    ScratchEntry scratch,
    Meaning meaning,
    Places places,
    Personal personal,
    Keeping keeping,
    Applying applying,
    Standing standing) {

  /**
   * What the tables mean.
   *
   * @param model {@code plain}, {@code wordpress}, or the path of a model file
   * @param stays rows that belong to their copy, beyond those of the model: table to column to
   *     patterns
   * @param roles whose the rows of tables are that the model does not name, or names otherwise
   */
  record Meaning(
      String model, Map<String, Map<String, List<String>>> stays, Map<String, Role> roles) {}

  /**
   * What differs between the copies by place alone.
   *
   * @param replace texts beyond the addresses, in order
   * @param hostsAlone whether a host that stands alone is mapped too
   */
  record Places(List<ReplaceEntry> replace, Boolean hostsAlone) {}

  /**
   * What is said of people.
   *
   * @param people names of people on staging, and who they are on live
   * @param masked columns whose values on staging are made up
   * @param maskedExcept patterns of personal values; whose row has one stays as it is
   */
  record Personal(Map<String, String> people, MaskedEntry masked, List<String> maskedExcept) {}

  /**
   * What is kept of the pair.
   *
   * @param sealed whether it is encrypted, and for whom
   * @param restorePoints when live is saved by itself, and how many such files stay
   * @param tidy how long drafts, receipts and earlier bases stay
   */
  record Keeping(SealedEntry sealed, RestorePointsEntry restorePoints, TidyEntry tidy) {}

  /**
   * What belongs to an apply.
   *
   * @param approvals how many people must have approved it, and whose signatures count
   * @param commands what the site wants to have run around an apply or undo
   */
  record Applying(ApprovalsEntry approvals, CommandsEntry commands) {}

  /**
   * What is said once for all drafts.
   *
   * @param files which files travel
   * @param selections selections by name, each in the words of the options
   * @param rules decisions; the first that fits counts
   */
  record Standing(
      FilesEntry files, Map<String, Map<String, List<String>>> selections, List<RuleEntry> rules) {}

  /** The file's keys, side by side as they are written. */
  @JsonPOJOBuilder
  static final class Written {
    @JsonProperty private String site;
    @JsonProperty private List<String> sites;
    @JsonProperty private String model;
    @JsonProperty private Copies copies;
    @JsonProperty private ScratchEntry scratch;
    @JsonProperty private List<ReplaceEntry> replace;
    @JsonProperty private Boolean hostsAlone;
    @JsonProperty private Map<String, Map<String, List<String>>> stays;
    @JsonProperty private Map<String, Role> roles;
    @JsonProperty private Map<String, String> people;
    @JsonProperty private MaskedEntry masked;
    @JsonProperty private List<String> maskedExcept;
    @JsonProperty private SealedEntry sealed;
    @JsonProperty private ApprovalsEntry approvals;
    @JsonProperty private CommandsEntry commands;
    @JsonProperty private RestorePointsEntry restorePoints;
    @JsonProperty private TidyEntry tidy;
    @JsonProperty private FilesEntry files;
    @JsonProperty private Map<String, Map<String, List<String>>> selections;
    @JsonProperty private List<RuleEntry> rules;

    PairFile build() {
      return new PairFile(
          site,
          sites,
          copies,
          scratch,
          new Meaning(model, stays, roles),
          new Places(replace, hostsAlone),
          new Personal(people, masked, maskedExcept),
          new Keeping(sealed, restorePoints, tidy),
          new Applying(approvals, commands),
          new Standing(files, selections, rules));
    }
  }

  /**
   * What it says of one of several sites.
   *
   * @param number the site's
   * @param addresses its own, by copy
   */
  PairFile at(int number, Map<String, String> addresses) {
    return new PairFile(
        number == 1 ? site : site + "-" + number,
        sites,
        new Copies(
            copies.staging().at(number, addresses.get("staging")),
            copies.live().at(number, addresses.get("live"))),
        scratch,
        meaning,
        places,
        personal,
        keeping,
        applying,
        standing);
  }

  /**
   * A standing rule: what it is about, and either the copy whose side stands in a conflict (or
   * both), or that the changes are left out.
   */
  record RuleEntry(
      List<String> item,
      List<String> tables,
      List<String> rows,
      List<String> path,
      String column,
      String keep,
      Boolean leaveOut,
      String why) {}

  /**
   * Commands by their moment, each a program and its arguments.
   *
   * @param seconds how long one may take
   */
  record CommandsEntry(
      List<List<String>> beforeApply,
      List<List<String>> afterApply,
      List<List<String>> afterUndo,
      List<List<String>> onFailure,
      Integer seconds) {}

  /**
   * Which approvals count; a number stands for {@code people}.
   *
   * @param people how many it takes
   * @param signers a file that names whose keys count, from the folder of weftex.yaml
   * @param notTheDrafter whether whoever drafted it does not count
   */
  record ApprovalsEntry(Integer people, String signers, Boolean notTheDrafter) {
    @JsonCreator(mode = JsonCreator.Mode.PROPERTIES)
    ApprovalsEntry {}

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    static ApprovalsEntry of(int people) {
      return new ApprovalsEntry(people, null, null);
    }
  }

  /**
   * Where files of SQL are loaded to: {@code private}, or a server.
   *
   * @param mariadb of which the database may be left out
   * @param own whether Weftex starts a server of its own
   */
  record ScratchEntry(ServerEntry mariadb, @JsonIgnore boolean own) {
    static final String PRIVATE = "private";

    @JsonCreator(mode = JsonCreator.Mode.PROPERTIES)
    ScratchEntry(@JsonProperty("mariadb") ServerEntry mariadb) {
      this(mariadb, false);
    }

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    static ScratchEntry of(String word) {
      if (!word.equals(PRIVATE)) {
        throw new IllegalArgumentException(
            "'scratch' is 'private', or names a server under 'mariadb', not '" + word + "'");
      }
      return new ScratchEntry(null, true);
    }
  }

  /**
   * Restore points.
   *
   * @param beforeApply whether live is saved before each apply
   * @param folder where to, from the folder of weftex.yaml
   * @param keep how many stay, the newest
   * @param days how old they may be
   * @param gigabytes how large they may be together
   */
  record RestorePointsEntry(
      Boolean beforeApply, String folder, Integer keep, Integer days, Double gigabytes) {}

  /**
   * How long state stays.
   *
   * @param days how old it may be
   * @param keep how many of the newest stay however old they are
   */
  record TidyEntry(Integer days, Integer keep) {}

  /**
   * Which files travel.
   *
   * @param without patterns of paths that do not
   * @param megabytes how large one may be
   */
  record FilesEntry(List<String> without, Integer megabytes) {}

  /** A text of one copy and what takes its place on the other. */
  record ReplaceEntry(String staging, String live, Boolean off) {}

  /** The two copies. */
  record Copies(CopyEntry staging, CopyEntry live) {}

  /**
   * One copy: exactly one of {@code sqlite}, {@code mariadb} and {@code sql}.
   *
   * @param sqlite path of the file, from the folder of weftex.yaml
   * @param sql path of a file of SQL, which is loaded into a scratch database
   * @param prefix what table names begin with
   * @param address the base address by which the copy knows itself
   * @param www whether it answers with, or without, {@code www.} before its host too
   * @param folder its folder in the file system
   */
  record CopyEntry(
      String sqlite,
      ServerEntry mariadb,
      String sql,
      SshEntry ssh,
      String prefix,
      String address,
      Boolean www,
      String folder) {

    CopyEntry at(int number, String ownAddress) {
      String ownPrefix = (prefix == null ? "" : prefix) + (number == 1 ? "" : number + "_");
      String base = number == 1 && address != null ? address : ownAddress;
      return new CopyEntry(sqlite, mariadb, sql, ssh, ownPrefix, base, www, folder);
    }
  }

  /** Variables of the environment that hold passwords: what is run beside us does not get them. */
  Set<String> passwordVariables() {
    return Stream.of(copies.staging(), copies.live())
        .map(CopyEntry::mariadb)
        .filter(server -> server != null && server.password() != null)
        .map(server -> server.password().variable())
        .filter(Objects::nonNull)
        .collect(Collectors.toSet());
  }

  /**
   * The machine over which a copy is reached; a text stands for {@code host}, with {@code USER@}
   * before it.
   *
   * @param host a name, a number, or an alias of the user's own configuration of OpenSSH
   * @param key a file with a private key
   * @param knownHosts a file with the keys of hosts
   */
  record SshEntry(String host, String user, Integer port, String key, String knownHosts) {
    @JsonCreator(mode = JsonCreator.Mode.PROPERTIES)
    SshEntry {}

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    static SshEntry of(String host) {
      int at = host.lastIndexOf('@');
      return new SshEntry(
          host.substring(at + 1), at < 0 ? null : host.substring(0, at), null, null, null);
    }
  }

  /** A database on a MariaDB or MySQL server. */
  record ServerEntry(
      String host,
      Integer port,
      String database,
      String user,
      PasswordEntry password,
      TlsEntry tls) {}

  /**
   * How the line is protected; {@code true} stands for {@code {verify: full}}, {@code false} for an
   * open line.
   *
   * @param verify {@code full} or {@code none}
   * @param ca a file with the authority's certificates
   * @param fingerprint of the server's certificate
   */
  record TlsEntry(String verify, String ca, String fingerprint) {
    static final String OFF = "off";
    static final String FULL = "full";
    static final String NONE = "none";

    @JsonCreator(mode = JsonCreator.Mode.PROPERTIES)
    TlsEntry {}

    @JsonCreator(mode = JsonCreator.Mode.DELEGATING)
    static TlsEntry of(boolean on) {
      return new TlsEntry(on ? FULL : OFF, null, null);
    }
  }

  /**
   * Where the password is: exactly one of these, or none for an empty one.
   *
   * @param command a program and its arguments, of which the first line printed is the password
   */
  record PasswordEntry(String variable, String file, String phpConfig, List<String> command) {}
}
