package weftex.cli.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.cli.CommandLine;
import weftex.cli.config.PairWriter;
import weftex.cli.session.Session;
import weftex.cli.siteconfig.PhpConfig;
import weftex.core.model.SiteModel;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;

/**
 * One copy of a new pair, as far as options, answers and its CMS's config file say what it is.
 *
 * @param config the config file; empty if none was named
 * @param address what the config file fixes as its address
 * @param notes what was taken from the config file under a reserve, as sentences
 */
record PairedCopy(
    String name,
    PairWriter.Entry entry,
    Optional<Path> config,
    Optional<String> address,
    List<String> notes) {
  private static final Pattern SERVER =
      Pattern.compile(
          "(?:mariadb|mysql)://([^:@/]+)@(\\[[^\\]]+\\]|[^:/]+)(?::(\\d{1,5}))?/([^/?]+)");

  /** Finds out where it is. */
  static PairedCopy ask(String copy, Questions questions, CommandLine line, Session session)
      throws Refusal, IOException {
    String config = line.getOptionValue(copy + "-config");
    if (config != null) {
      return ofConfig(copy, config, line, session);
    }
    if (!line.hasOption(copy) && !questions.canAsk()) {
      throw PairedPlace.refusal(
          "Nothing says where " + copy + " is.",
          "Give --" + copy + " PLACE or --" + copy + "-config FILE.");
    }
    PairedCopy found =
        questions.ask(
            copy,
            "Where "
                + copy
                + " is (sqlite:FILE, mariadb://USER@HOST:PORT/DATABASE, a file of SQL, or its CMS's config file)",
            "",
            place -> at(copy, place, line, session));
    if (found.config().isPresent()) {
      return found;
    }
    PairWriter.Entry entry = found.entry();
    String prefix = questions.ask(copy + "-prefix", "Table prefix of " + copy, "");
    return withPassword(copy, questions, entry, prefix);
  }

  private static PairedCopy withPassword(
      String copy, Questions questions, PairWriter.Entry entry, String prefix)
      throws Refusal, IOException {
    Optional<String> password =
        entry.file().isPresent()
            ? Optional.empty()
            : questions.ask(
                copy + "-password",
                "Where the password of "
                    + copy
                    + " is (variable:NAME or file:FILE, empty for none)",
                "",
                source -> PairedPlace.password(copy, source));
    return new PairedCopy(
        copy, entry.with(prefix, password), Optional.empty(), Optional.empty(), List.of());
  }

  private static PairedCopy ofConfig(String copy, String config, CommandLine line, Session session)
      throws Refusal {
    Path file = session.folder().resolve(config);
    PhpConfig php = PhpConfig.read(file, session.environment());
    PairWriter.Entry entry =
        new PairWriter.Entry(
            Optional.empty(),
            Optional.of(
                new PairWriter.ServerEntry(
                    Optional.ofNullable(line.getOptionValue(copy + "-ssh")),
                    php.host(),
                    php.port(),
                    php.database(),
                    php.user(),
                    Optional.of("php-config: " + PairedPlace.yaml(config)))),
            line.hasOption(copy + "-prefix") ? line.getOptionValue(copy + "-prefix") : php.prefix(),
            Optional.ofNullable(line.getOptionValue(copy + "-address")),
            Optional.ofNullable(line.getOptionValue(copy + "-folder")));
    return new PairedCopy(
        copy, entry, Optional.of(file), php.address().filter(PairedPlace::isAddress), php.notes());
  }

  /** A copy of which only the place is known yet, or all that its config file says. */
  private static PairedCopy at(String copy, String place, CommandLine line, Session session)
      throws Refusal {
    boolean isSql = place.matches("(?i)(?!sqlite:).*\\.(sql|sql\\.gz|sql\\.zst|zip)");
    if (place.endsWith(".php") || !isSql && Files.isRegularFile(session.folder().resolve(place))) {
      return ofConfig(copy, place, line, session);
    }
    boolean isFile = place.startsWith("sqlite:") || isSql;
    Matcher server = SERVER.matcher(place);
    if (!isFile && !server.matches()) {
      throw PairedPlace.refusal(
          "'"
              + place
              + "' does not say where "
              + copy
              + " is"
              + (place.matches(".*//[^@/]*:[^@/]*@.*") ? ": a password has no place in it." : "."),
          "Write sqlite:FILE, mariadb://USER@HOST:PORT/DATABASE, a file of SQL or the path of a config file; the"
              + " password comes from --"
              + copy
              + "-password.");
    }
    PairWriter.Entry entry =
        new PairWriter.Entry(
            isFile
                ? Optional.of(new PairWriter.FileEntry(place.replaceFirst("^sqlite:", ""), isSql))
                : Optional.empty(),
            isFile
                ? Optional.empty()
                : Optional.of(
                    new PairWriter.ServerEntry(
                        Optional.ofNullable(line.getOptionValue(copy + "-ssh")),
                        server.group(2).replaceAll("[\\[\\]]", ""),
                        PairedPlace.port(server.group(3)),
                        server.group(4),
                        server.group(1),
                        Optional.empty())),
            "",
            Optional.ofNullable(line.getOptionValue(copy + "-address")),
            Optional.ofNullable(line.getOptionValue(copy + "-folder")));
    return new PairedCopy(copy, entry, Optional.empty(), Optional.empty(), List.of());
  }

  /**
   * Adds its address and its folder: what its config file or its own settings say, confirmed by who
   * is there. A copy that can't be reached yet is no reason not to go on.
   */
  PairWriter.Entry known(CopySpec spec, SiteModel model, Questions questions)
      throws Refusal, IOException {
    PairWriter.Entry known = entry;
    if (known.address().isEmpty()) {
      String said =
          questions.ask(
              name + "-address",
              "Base address of " + name + " (- for none)",
              address.orElseGet(() -> ofSettings(spec, model)),
              PairedPlace::checked);
      known = said.isEmpty() ? known : known.withAddress(said);
    }
    if (known.folder().isEmpty() && config.isPresent() && questions.canAsk()) {
      String said =
          questions.ask(
              name + "-folder",
              "Folder of " + name + "'s files on its server (- for none)",
              config.get().toAbsolutePath().normalize().getParent().toString());
      known = said.isEmpty() || said.equals("-") ? known : known.withFolder(said);
    }
    return known;
  }

  private static String ofSettings(CopySpec spec, SiteModel model) {
    try {
      Optional<SiteModel.AddressRule> rule = model.ownAddress();
      return rule.isEmpty()
          ? ""
          : Copy.reach(spec)
              .lookup()
              .cell(rule.get().table(), rule.get().where(), rule.get().column())
              .filter(PairedPlace::isAddress)
              .orElse("");
    } catch (Refusal e) {
      // 'weftex check' says what is wrong with it.
      return "";
    }
  }
}
