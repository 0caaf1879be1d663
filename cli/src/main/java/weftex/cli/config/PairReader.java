package weftex.cli.config;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import weftex.core.address.Address;
import weftex.core.address.AddressBook;
import weftex.core.address.CopyAddress;
import weftex.core.decide.StandingRule;
import weftex.core.site.SiteModel;
import weftex.core.yaml.Nearest;
import weftex.core.yaml.YamlProblem;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.copy.CopySpec;
import weftex.store.copy.Tls;
import weftex.store.dump.SqlFile;
import weftex.store.state.StateFolder;
import weftex.store.tidy.Leftovers;

/** Reads weftex.yaml. */
public final class PairReader {

  /** Anything else would be read by the driver as a part of its address. */
  private static final int DAYS_KEPT = 90;

  private static final int NEWEST_KEPT = 20;
  private static final List<String> KEEPS = List.of("live", "staging", StandingRule.BOTH);

  private static final Pattern HOST =
      Pattern.compile("[A-Za-z0-9]([A-Za-z0-9._-]*[A-Za-z0-9])?|\\[?[0-9a-fA-F:.]+]?");

  /** Nor here: a comma would end the value. */
  private static final Pattern SOCKET = Pattern.compile("/[^,;&?]+");

  private final Path file;
  private final Map<String, String> environment;
  private final Optional<RoofSites.At> at;

  private PairReader(Path file, Map<String, String> environment, Optional<RoofSites.At> at) {
    this.file = file;
    this.environment = environment;
    this.at = at;
  }

  /**
   * What weftex.yaml says, ready for use.
   *
   * @param folder where it lies
   * @param people who is who on the copies, and what of them is made up on staging
   * @param applying what is asked for around an apply
   * @param standing what is said once for all
   * @param sites {@code all} or the numbers of sites under one roof; empty for one site alone
   */
  public record Pair(
      Path folder,
      String site,
      SiteModel model,
      CopySpec staging,
      CopySpec live,
      AddressBook addresses,
      People people,
      Applying applying,
      Standing standing,
      List<String> sites) {

    /**
     * What is said once for all.
     *
     * @param selections by name
     * @param rules in their order
     */
    public record Standing(Map<String, SelectionWords> selections, List<StandingRule> rules) {}

    /** Selections by name. */
    public Map<String, SelectionWords> selections() {
      return standing.selections();
    }

    /** Decisions that are made once for all; of several that fit the first counts. */
    public List<StandingRule> rules() {
      return standing.rules();
    }

    /**
     * What is asked for around an apply.
     *
     * @param approvals how many people must have approved it
     * @param commands what is run before and after
     * @param restorePoints whether live is saved before, and what stays of that
     * @param tidy how long drafts, receipts and earlier bases stay
     */
    public record Applying(
        int approvals,
        SiteCommands commands,
        RestorePointRules restorePoints,
        Leftovers.Limits tidy) {}

    /**
     * The people of the copies.
     *
     * @param same names of people on staging, and who they are on live
     * @param masked columns of personal data whose values on staging are made up, by table
     */
    public record People(Map<String, String> same, Map<String, List<String>> masked) {
      public People {
        same = Map.copyOf(same);
        masked = Map.copyOf(masked);
      }
    }

    /** How many people must have approved what is applied. */
    public int approvals() {
      return applying.approvals();
    }

    /** What the site wants to have run around an apply or undo. */
    public SiteCommands commands() {
      return applying.commands();
    }

    /** What is said of restore points. */
    public RestorePointRules restorePoints() {
      return applying.restorePoints();
    }

    /** Who on the receiving copy is the same person as somebody on the other. */
    public Map<String, String> people(String into) {
      if (into.equals("live")) {
        return people.same();
      }
      Map<String, String> back = new TreeMap<>();
      people.same().forEach((staging, live) -> back.putIfAbsent(live, staging));
      return back;
    }

    /** The copy of a name, which is {@code staging} or {@code live}. */
    public CopySpec copy(String name) throws Refusal {
      return switch (name) {
        case "staging" -> staging;
        case "live" -> live;
        default ->
            throw new Refusal(
                Refusal.Kind.WRONG_INPUT,
                "There is no copy '" + name + "'. Nothing was changed.",
                "Say 'staging' or 'live'.");
      };
    }

    /** The copy that is not the one of this name. */
    public CopySpec other(String name) throws Refusal {
      return copy(name).name().equals("live") ? staging : live;
    }
  }

  /**
   * Reads.
   *
   * @param environment where passwords may be
   * @throws Refusal with the line at fault
   */
  public static Pair read(Path file, Map<String, String> environment) throws Refusal {
    return read(file, environment, Optional.empty());
  }

  /**
   * The same of one of several sites.
   *
   * @param at which; the first if empty
   */
  public static Pair read(Path file, Map<String, String> environment, Optional<RoofSites.At> at)
      throws Refusal {
    if (!Files.isRegularFile(file)) {
      throw new Refusal(
          Refusal.Kind.WRONG_INPUT,
          "There is no " + file + ". Nothing was changed.",
          "Go to the folder that has it, name it with --config, or write one with 'weftex pair'.");
    }
    PairReader reader = new PairReader(file, environment, at);
    try {
      return reader.read(SmallFile.read(file));
    } catch (IOException e) {
      throw reader.wrong("it can't be read: " + FailureWords.of(e));
    }
  }

  /**
   * Reads what is going to be written.
   *
   * @param file where it will be
   */
  public static Pair read(Path file, String text, Map<String, String> environment) throws Refusal {
    return new PairReader(file, environment, Optional.empty()).read(text);
  }

  private Pair read(String text) throws Refusal {
    try {
      PairFile written = weftex.core.yaml.StrictYaml.read(text, PairFile.class);
      required("site", written.site());
      required("copies", written.copies());
      required("copies.staging", written.copies().staging());
      required("copies.live", written.copies().live());
      PairFile said = at.map(site -> site.of(written)).orElse(written);
      SiteModel model =
          model(said.model() == null ? "plain" : said.model())
              .withStays(said.stays() == null ? Map.of() : said.stays())
              .withRoles(said.roles() == null ? Map.of() : said.roles())
              .withMasked(said.masked() == null ? Map.of() : said.masked());
      Pair pair =
          new Pair(
              file.toAbsolutePath().getParent(),
              said.site(),
              model,
              spec("staging", said, model.shared()),
              spec("live", said, model.shared()),
              addresses(said),
              new Pair.People(
                  said.people() == null ? Map.of() : said.people(),
                  said.masked() == null ? Map.of() : said.masked()),
              applying(said),
              new Pair.Standing(selections(said), rules(said)),
              sites(said));
      if (pair.approvals() < 1) {
        throw wrong("'approvals' must be 1 or more");
      }
      if (pair.staging().place().equals(pair.live().place())) {
        throw wrong("staging and live are the same database (" + pair.live().place() + ")");
      }
      return pair;
    } catch (YamlProblem e) {
      throw wrong(e.sentence());
    }
  }

  private List<String> sites(PairFile said) throws Refusal {
    List<String> sites = said.sites() == null ? List.of() : said.sites();
    if (!sites.equals(List.of(RoofSites.ALL)) && !sites.stream().allMatch(RoofSites::isNumber)) {
      throw wrong("'sites' is 'all' or a list of numbers, such as [1, 3]");
    }
    return sites;
  }

  private Pair.Applying applying(PairFile said) throws Refusal {
    Path folder = file.toAbsolutePath().getParent();
    try {
      return new Pair.Applying(
          said.approvals() == null ? 1 : said.approvals(),
          SiteCommands.of(said, folder),
          RestorePointRules.of(said, folder),
          tidy(said));
    } catch (IllegalArgumentException e) {
      throw wrong(e.getMessage());
    }
  }

  private static Leftovers.Limits tidy(PairFile said) {
    PairFile.TidyEntry entry =
        said.tidy() == null ? new PairFile.TidyEntry(null, null) : said.tidy();
    int days = entry.days() == null ? DAYS_KEPT : entry.days();
    int keep = entry.keep() == null ? NEWEST_KEPT : entry.keep();
    if (days < 1 || keep < 1) {
      throw new IllegalArgumentException("'days' and 'keep' of 'tidy' must be 1 or more");
    }
    return new Leftovers.Limits(days, keep);
  }

  private Map<String, SelectionWords> selections(PairFile said) throws Refusal {
    Map<String, SelectionWords> selections = new LinkedHashMap<>();
    if (said.selections() == null) {
      return selections;
    }
    for (Map.Entry<String, Map<String, List<String>>> entry : said.selections().entrySet()) {
      String name = entry.getKey();
      required("selections." + name, entry.getValue());
      for (String word : entry.getValue().keySet()) {
        if (!SelectionWords.WORDS.containsKey(word)) {
          throw wrong(
              "selection '"
                  + name
                  + "' says '"
                  + word
                  + "', which nothing can be chosen by"
                  + Nearest.to(word, SelectionWords.WORDS.keySet())
                      .map(near -> "; did you mean '" + near + "'?")
                      .orElse(""));
        }
      }
      selections.put(name, checked("selection '" + name + "'", entry.getValue()));
    }
    return Collections.unmodifiableMap(selections);
  }

  private SelectionWords checked(String what, Map<String, List<String>> said) throws Refusal {
    SelectionWords words = new SelectionWords(said);
    try {
      words.selection(Instant.EPOCH);
    } catch (Refusal e) {
      throw wrong(what + ": " + e.reason());
    }
    return words;
  }

  private List<StandingRule> rules(PairFile said) throws Refusal {
    List<StandingRule> rules = new ArrayList<>();
    for (PairFile.RuleEntry entry :
        said.rules() == null ? List.<PairFile.RuleEntry>of() : said.rules()) {
      rules.add(rule(rules.size() + 1, entry));
    }
    return rules;
  }

  private StandingRule rule(int number, PairFile.RuleEntry entry) throws Refusal {
    boolean leaveOut = Boolean.TRUE.equals(entry.leaveOut());
    if (leaveOut == (entry.keep() != null)) {
      throw wrong(
          "rule " + number + " needs either 'keep' (live, staging or both) or 'leave-out: true'");
    }
    if (entry.keep() != null && !KEEPS.contains(entry.keep())) {
      throw wrong("rule " + number + " keeps '" + entry.keep() + "'; say live, staging or both");
    }
    if (leaveOut && entry.column() != null) {
      throw wrong("rule " + number + " leaves out a column; only whole changes can be left out");
    }
    Map<String, List<String>> about = new LinkedHashMap<>();
    put(about, "item", entry.item());
    put(about, "tables", entry.tables());
    put(about, "rows", entry.rows());
    put(about, "path", entry.path());
    if (about.isEmpty()) {
      throw wrong(
          "rule "
              + number
              + " says nothing of what it is about: 'item', 'tables', 'rows' or 'path'");
    }
    return new StandingRule(
        number,
        checked("rule " + number, about).selection(Instant.EPOCH),
        Optional.ofNullable(entry.column()),
        Optional.ofNullable(entry.keep()),
        entry.why() == null ? words(about, entry) : entry.why());
  }

  private static void put(Map<String, List<String>> about, String word, List<String> values) {
    if (values != null && !values.isEmpty()) {
      about.put(word, values);
    }
  }

  /** A rule in words, for whoever gave no reason. */
  private static String words(Map<String, List<String>> about, PairFile.RuleEntry entry) {
    String what =
        about.values().stream()
            .map(values -> String.join(", ", values))
            .collect(java.util.stream.Collectors.joining("; "));
    return entry.keep() == null
        ? "always left out: " + what
        : "in conflicts, "
            + (entry.keep().equals(StandingRule.BOTH)
                ? "both sides of "
                : entry.keep() + "'s side of ")
            + what
            + (entry.column() == null ? "" : " in " + entry.column());
  }

  private AddressBook addresses(PairFile said) throws Refusal {
    List<Map<String, String>> pairs = new ArrayList<>();
    for (PairFile.ReplaceEntry entry :
        said.replace() == null ? List.<PairFile.ReplaceEntry>of() : said.replace()) {
      required("replace.staging", entry.staging());
      required("replace.live", entry.live());
      if (!Boolean.TRUE.equals(entry.off())) {
        pairs.add(Map.of("staging", entry.staging(), "live", entry.live()));
      }
    }
    AddressBook book =
        new AddressBook(
            Map.of(
                "staging", address("staging", said.copies().staging()),
                "live", address("live", said.copies().live())),
            pairs,
            beside(),
            Boolean.TRUE.equals(said.hostsAlone()));
    try {
      book.between("staging", "live");
      book.between("live", "staging");
    } catch (IllegalArgumentException e) {
      throw wrong("replace: " + e.getMessage());
    }
    return book;
  }

  private List<Map<String, CopyAddress>> beside() {
    List<Map<String, CopyAddress>> beside = new ArrayList<>();
    for (Map<String, String> site : at.map(RoofSites.At::others).orElse(List.of())) {
      Map<String, CopyAddress> addresses = new LinkedHashMap<>();
      site.forEach(
          (copy, address) ->
              addresses.put(
                  copy,
                  new CopyAddress(Optional.of(Address.parse(address)), false, Optional.empty())));
      beside.add(addresses);
    }
    return beside;
  }

  private CopyAddress address(String copy, PairFile.CopyEntry entry) throws Refusal {
    try {
      return new CopyAddress(
          Optional.ofNullable(entry.address()).map(Address::parse),
          Boolean.TRUE.equals(entry.www()),
          Optional.ofNullable(entry.folder()));
    } catch (IllegalArgumentException e) {
      throw wrong("copies." + copy + ": " + e.getMessage());
    }
  }

  private Refusal wrong(String what) {
    return new Refusal(
        Refusal.Kind.WRONG_INPUT,
        file.getFileName() + ": " + what + ". Nothing was changed.",
        "Correct the file; docs/configuration.md describes it.");
  }

  private void required(String key, Object value) throws Refusal {
    if (value == null) {
      throw wrong("'" + key + "' is missing");
    }
  }

  private SiteModel model(String name) throws Refusal {
    try {
      Optional<SiteModel> found = ModelFiles.find(file.toAbsolutePath().getParent(), name);
      if (found.isEmpty()) {
        throw wrong(
            "there is no site model '"
                + name
                + "', neither built in (plain, "
                + String.join(", ", SiteModel.builtIn())
                + ") nor as a file");
      }
      return found.get();
    } catch (YamlProblem e) {
      throw wrong("site model " + name + ", " + e.sentence());
    } catch (IOException e) {
      throw wrong("site model " + name + " can't be read: " + FailureWords.of(e));
    }
  }

  private CopySpec spec(String name, PairFile said, List<String> shared) throws Refusal {
    boolean live = name.equals("live");
    PairFile.CopyEntry entry = live ? said.copies().live() : said.copies().staging();
    PairFile.CopyEntry other = live ? said.copies().staging() : said.copies().live();
    String prefix = entry.prefix() == null ? "" : entry.prefix();
    long kinds =
        Stream.of(entry.sqlite(), entry.mariadb(), entry.sql()).filter(Objects::nonNull).count();
    if (kinds != 1) {
      throw wrong("copy '" + name + "' needs one of 'sqlite', 'mariadb' and 'sql'");
    }
    Path folder = file.toAbsolutePath().getParent();
    if (entry.sqlite() != null) {
      return new CopySpec.SqliteFile(
          name, prefix, folder.resolve(entry.sqlite()).normalize(), shared, Optional.empty());
    }
    return entry.mariadb() != null
        ? server(name, prefix, entry.mariadb(), shared)
        : sqlFile(name, prefix, folder.resolve(entry.sql()).normalize(), said, other.mariadb());
  }

  /** A file is loaded on the server that is named for it, else on that of the other copy. */
  private CopySpec sqlFile(
      String name, String prefix, Path sql, PairFile said, PairFile.ServerEntry other)
      throws Refusal {
    if (SqlFile.isOfSqlite(sql)) {
      Path scratch = StateFolder.of(file).folder().resolve("scratch").resolve(name + ".db");
      return SqlFile.of(sql, new CopySpec.SqliteFile(name, prefix, scratch));
    }
    PairFile.ServerEntry server =
        said.scratch() != null && said.scratch().mariadb() != null
            ? said.scratch().mariadb()
            : other;
    if (server == null) {
      throw wrong(
          "copy '"
              + name
              + "' is a file of a MariaDB or MySQL server, and nothing says on which server it may be"
              + " loaded: add 'scratch: {mariadb: {host: …, user: …}}'");
    }
    boolean named = server != other && server.database() != null;
    String database =
        named
            ? server.database()
            : ("weftex_scratch_" + said.site() + "_" + name).replaceAll("[^A-Za-z0-9_]", "_");
    PairFile.ServerEntry scratch =
        new PairFile.ServerEntry(
            server.host(),
            server.port(),
            database.substring(0, Math.min(64, database.length())),
            server.user(),
            server.password(),
            server.tls());
    return SqlFile.of(sql, server(name, prefix, scratch, List.of()));
  }

  private CopySpec server(
      String name, String prefix, PairFile.ServerEntry server, List<String> shared) throws Refusal {
    Path folder = file.toAbsolutePath().getParent();
    required("copies." + name + ".mariadb.host", server.host());
    if (!HOST.matcher(server.host()).matches() && !SOCKET.matcher(server.host()).matches()) {
      throw wrong(
          "'"
              + server.host()
              + "' of copy '"
              + name
              + "' is no name or number of a host, nor the whole path of a socket; write an international name in its 'xn--' form");
    }
    required("copies." + name + ".mariadb.database", server.database());
    required("copies." + name + ".mariadb.user", server.user());
    int port = server.port() == null ? CopySpec.Server.DEFAULT_PORT : server.port();
    if (port < 1 || port > 65535) {
      throw wrong("port " + port + " of copy '" + name + "' is not between 1 and 65535");
    }
    return new CopySpec.Server(
        name,
        prefix,
        server.host(),
        port,
        server.database(),
        server.user(),
        password(name, server.password(), folder),
        tls(name, server, folder),
        shared,
        Optional.empty());
  }

  private Tls tls(String name, PairFile.ServerEntry server, Path folder) throws Refusal {
    PairFile.TlsEntry said = server.tls();
    if (said == null) {
      return Tls.byDefault(server.host());
    }
    String verify = said.verify() == null ? PairFile.TlsEntry.FULL : said.verify();
    Optional<Path> authority = Optional.ofNullable(said.ca()).map(folder::resolve);
    if (said.fingerprint() != null) {
      String hex = said.fingerprint().replaceFirst("(?i)^SHA-?256:?", "").replaceAll("[: ]", "");
      if (!hex.matches("[0-9a-fA-F]{64}") || said.ca() != null || said.verify() != null) {
        throw wrong(
            "'tls' of copy '"
                + name
                + "' needs either 'fingerprint', 64 hexadecimal digits, or 'verify' and 'ca'");
      }
      return new Tls(
          Tls.Verify.PINNED, Optional.empty(), Optional.of(hex.toLowerCase(Locale.ROOT)));
    }
    return switch (verify) {
      case PairFile.TlsEntry.FULL -> new Tls(Tls.Verify.FULL, authority, Optional.empty());
      case PairFile.TlsEntry.NONE -> Tls.UNVERIFIED;
      case PairFile.TlsEntry.OFF, "false" -> Tls.OFF;
      default ->
          throw wrong(
              "'verify' of 'tls' of copy '" + name + "' is 'full' or 'none', not '" + verify + "'");
    };
  }

  private CopySpec.Password password(String name, PairFile.PasswordEntry entry, Path folder)
      throws Refusal {
    if (entry == null) {
      return PasswordSource.none();
    }
    long given =
        java.util.stream.Stream.of(entry.variable(), entry.file(), entry.phpConfig())
            .filter(java.util.Objects::nonNull)
            .count();
    if (given != 1) {
      throw wrong(
          "the password of copy '" + name + "' needs one of 'variable', 'file' and 'php-config'");
    }
    if (entry.variable() != null) {
      return PasswordSource.variable(entry.variable(), environment);
    }
    return entry.file() != null
        ? PasswordSource.file(folder.resolve(entry.file()))
        : PasswordSource.phpConfig(folder.resolve(entry.phpConfig()), environment);
  }
}
