package weftex.cli.command;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.cli.CommandLine;
import org.apache.commons.cli.Option;
import org.apache.commons.cli.Options;
import weftex.cli.config.PairReader;
import weftex.cli.config.PairWriter;
import weftex.cli.config.PhpConfig;
import weftex.cli.session.ExitStatus;
import weftex.cli.session.Session;
import weftex.core.address.Address;
import weftex.core.site.SiteModel;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.copy.CopySpec;

/** Writes weftex.yaml. */
final class PairCommand implements Command {
  private static final Pattern SERVER =
      Pattern.compile(
          "(?:mariadb|mysql)://([^:@/]+)@(\\[[^\\]]+\\]|[^:/]+)(?::(\\d{1,5}))?/([^/?]+)");

  /** What was written. */
  public record Paired(
      String file, String site, String staging, String live, Map<String, String> addresses) {}

  @Override
  public Options options() {
    Options options = new Options();
    add(options, "site", "NAME", "a name for the site");
    add(options, "model", "MODEL", "plain, wordpress, or the path of a model file");
    for (String copy : List.of("staging", "live")) {
      add(
          options,
          copy,
          "PLACE",
          "where " + copy + " is: sqlite:FILE or mariadb://USER@HOST:PORT/DATABASE");
      add(options, copy + "-config", "FILE", "take it from a CMS's own PHP config file instead");
      add(options, copy + "-prefix", "PREFIX", "what its table names begin with");
      add(options, copy + "-address", "URL", "the base address by which " + copy + " knows itself");
      add(options, copy + "-folder", "PATH", "the folder of " + copy + "'s files on its server");
      add(
          options,
          copy + "-password",
          "SOURCE",
          "where its password is: variable:NAME or file:FILE");
    }
    options.addOption(Option.builder().longOpt("overwrite").desc("replace an existing file").get());
    return options;
  }

  private static void add(Options options, String name, String argument, String description) {
    options.addOption(
        Option.builder().longOpt(name).hasArg().argName(argument).desc(description).get());
  }

  @Override
  public Map<String, List<String>> headings() {
    Map<String, List<String>> headings = new LinkedHashMap<>();
    for (String copy : List.of("staging", "live")) {
      headings.put(
          copy,
          List.of(
              copy,
              copy + "-config",
              copy + "-prefix",
              copy + "-address",
              copy + "-folder",
              copy + "-password"));
    }
    return headings;
  }

  @Override
  public String arguments() {
    return "--site NAME --staging PLACE --live PLACE [options]";
  }

  @Override
  public List<String> examples() {
    return List.of(
        "weftex pair --site skerrow --model wordpress --staging-config staging/wp-config.php --live-config live/wp-config.php",
        "weftex pair --site skerrow --staging sqlite:staging.db --live mariadb://weftex@db.skerrow.example/skerrow"
            + " --live-password variable:SKERROW_PASSWORD --live-prefix skf_ --staging-prefix skf_");
  }

  @Override
  public Result run(CommandLine line, Session session) throws Refusal, IOException {
    Path file = Workplace.file(line, session);
    if (Files.exists(file) && !line.hasOption("overwrite")) {
      throw refusal(file + " is there already.", "Edit it, or replace it with --overwrite.");
    }
    Questions questions = new Questions(line, session);
    String site = questions.ask("site", "Name of the site", "site");
    String model = questions.ask("model", "Site model (plain, wordpress or a file)", "plain");
    PairWriter.Entry staging = entry("staging", questions, line, session);
    PairWriter.Entry live = entry("live", questions, line, session);
    PairReader.Pair pair = write(file, site, model, staging, live, line, session);
    PairWriter.Entry known = known(staging, pair.staging(), pair.model(), questions);
    PairWriter.Entry knownLive = known(live, pair.live(), pair.model(), questions);
    if (known != staging || knownLive != live) {
      pair = write(file, site, model, known, knownLive, line, session);
    }
    Map<String, String> addresses = new TreeMap<>();
    known.address().ifPresent(address -> addresses.put("staging", address));
    knownLive.address().ifPresent(address -> addresses.put("live", address));
    Paired paired =
        new Paired(file.toString(), site, pair.staging().place(), pair.live().place(), addresses);
    return new Result(
        ExitStatus.DONE,
        paired,
        page -> {
          page.line("Wrote " + page.strong(paired.file()) + ".");
          page.line("  staging  " + paired.staging() + known(paired, "staging"));
          page.line("  live     " + paired.live() + known(paired, "live"));
          page.line(page.faint("Next: weftex check"));
        });
  }

  private static String known(Paired paired, String copy) {
    String address = paired.addresses().get(copy);
    return address == null ? "" : ", known as " + address;
  }

  /** Writes the file and reads it again, so that no file is left that can't be read. */
  private static PairReader.Pair write(
      Path file,
      String site,
      String model,
      PairWriter.Entry staging,
      PairWriter.Entry live,
      CommandLine line,
      Session session)
      throws Refusal, IOException {
    Files.write(
        file, PairWriter.write(site, model, staging, live).getBytes(StandardCharsets.UTF_8));
    try {
      return PairReader.read(file, session.environment());
    } catch (Refusal e) {
      if (!line.hasOption("overwrite")) {
        Files.delete(file);
      }
      throw e;
    }
  }

  /**
   * Looks up a copy's own address where the model says it is, and has it confirmed. A copy that
   * can't be reached yet is no reason not to write the file.
   */
  private static PairWriter.Entry known(
      PairWriter.Entry entry, CopySpec spec, SiteModel model, Questions questions)
      throws Refusal, IOException {
    if (entry.address().isPresent()) {
      return entry;
    }
    String proposed = "";
    try {
      Optional<SiteModel.AddressRule> rule = model.ownAddress();
      proposed =
          rule.isEmpty()
              ? ""
              : Copy.reach(spec)
                  .cell(rule.get().table(), rule.get().where(), rule.get().column())
                  .filter(PairCommand::isAddress)
                  .orElse("");
    } catch (Refusal e) {
      // 'weftex check' says what is wrong with it.
    }
    String address =
        questions.ask(
            spec.name() + "-address", "Base address of " + spec.name() + " (- for none)", proposed);
    return address.isEmpty() || address.equals("-") ? entry : entry.withAddress(address);
  }

  private static boolean isAddress(String text) {
    try {
      Address.parse(text);
      return true;
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  /** Takes a value from an option, or asks for it if somebody is there to answer. */
  private record Questions(CommandLine line, Session session) {
    String ask(String option, String question, String otherwise) throws Refusal, IOException {
      String given = line.getOptionValue(option);
      if (given != null) {
        return given;
      }
      if (!session.terminal().in() || line.hasOption("json")) {
        if (option.equals("staging") || option.equals("live")) {
          throw refusal(
              "Nothing says where " + option + " is.",
              "Give --" + option + " PLACE or --" + option + "-config FILE.");
        }
        return otherwise;
      }
      session.err().print(question + (otherwise.isEmpty() ? ": " : " [" + otherwise + "]: "));
      session.err().flush();
      String answer = session.in().readLine();
      return answer == null || answer.isBlank() ? otherwise : answer.strip();
    }
  }

  private static PairWriter.Entry entry(
      String copy, Questions questions, CommandLine line, Session session)
      throws Refusal, IOException {
    String config = line.getOptionValue(copy + "-config");
    if (config != null) {
      PhpConfig php = PhpConfig.read(session.folder().resolve(config));
      return new PairWriter.Entry(
          Optional.empty(),
          php.host(),
          php.port(),
          php.database(),
          php.user(),
          Optional.of("php-config: " + yaml(config)),
          line.getOptionValue(copy + "-prefix", php.prefix()),
          Optional.ofNullable(line.getOptionValue(copy + "-address")),
          Optional.ofNullable(line.getOptionValue(copy + "-folder")));
    }
    String place =
        questions.ask(
            copy, "Where " + copy + " is (sqlite:FILE or mariadb://USER@HOST:PORT/DATABASE)", "");
    if (place.startsWith("sqlite:")) {
      String prefix = questions.ask(copy + "-prefix", "Table prefix of " + copy, "");
      return new PairWriter.Entry(
          Optional.of(place.substring("sqlite:".length())),
          "",
          0,
          "",
          "",
          Optional.empty(),
          prefix,
          Optional.ofNullable(line.getOptionValue(copy + "-address")),
          Optional.ofNullable(line.getOptionValue(copy + "-folder")));
    }
    Matcher server = SERVER.matcher(place);
    if (!server.matches()) {
      throw refusal(
          "'"
              + place
              + "' does not say where "
              + copy
              + " is"
              + (place.matches(".*//[^@/]*:[^@/]*@.*") ? ": a password has no place in it." : "."),
          "Write sqlite:FILE or mariadb://USER@HOST:PORT/DATABASE; the password comes from --"
              + copy
              + "-password.");
    }
    String prefix = questions.ask(copy + "-prefix", "Table prefix of " + copy, "");
    String source =
        questions.ask(
            copy + "-password",
            "Where the password of " + copy + " is (variable:NAME or file:FILE, empty for none)",
            "");
    return new PairWriter.Entry(
        Optional.empty(),
        server.group(2).replaceAll("[\\[\\]]", ""),
        server.group(3) == null ? CopySpec.Server.DEFAULT_PORT : Integer.parseInt(server.group(3)),
        server.group(4),
        server.group(1),
        password(copy, source),
        prefix,
        Optional.ofNullable(line.getOptionValue(copy + "-address")),
        Optional.ofNullable(line.getOptionValue(copy + "-folder")));
  }

  private static Optional<String> password(String copy, String source) throws Refusal {
    if (source.isEmpty()) {
      return Optional.empty();
    }
    int colon = source.indexOf(':');
    String kind = colon < 0 ? "" : source.substring(0, colon);
    if (!kind.equals("variable") && !kind.equals("file")) {
      throw refusal(
          "--" + copy + "-password takes variable:NAME or file:FILE, never the password itself.",
          "Put the password into a variable or a file and name that.");
    }
    return Optional.of(kind + ": " + yaml(source.substring(colon + 1)));
  }

  private static String yaml(String text) {
    return "\"" + text.replace("\\", "\\\\").replace("\"", "\\\"") + "\"";
  }

  private static Refusal refusal(String what, String next) {
    return new Refusal(Refusal.Kind.WRONG_INPUT, what + " Nothing was changed.", next);
  }
}
