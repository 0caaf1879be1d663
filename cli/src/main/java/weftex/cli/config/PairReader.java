package weftex.cli.config;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import weftex.cli.siteconfig.SmallFile;
import weftex.core.address.Address;
import weftex.core.address.AddressBook;
import weftex.core.address.CopyAddress;
import weftex.core.file.FileChoice;
import weftex.core.model.SiteModel;
import weftex.core.yaml.YamlProblem;
import weftex.store.FailureWords;
import weftex.store.Refusal;
import weftex.store.database.CopySpec;
import weftex.store.seal.AtRest;
import weftex.store.tidy.Leftovers;

/** Reads weftex.yaml. */
public final class PairReader {

  private static final int DAYS_KEPT = 90;
  private static final long MEGABYTE = 1_000_000;

  private static final int NEWEST_KEPT = 20;

  private final Path file;
  private final Map<String, String> environment;
  private final Optional<RoofSites.At> at;

  private PairReader(Path file, Map<String, String> environment, Optional<RoofSites.At> at) {
    this.file = file;
    this.environment = environment;
    this.at = at;
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

  /**
   * A copy as it was when a file was written, which is no copy of the pair.
   *
   * @param name {@code staging} or {@code live}
   * @param earlier a file of SQL, or an SQLite database
   * @param atRest how it may be kept
   */
  public static CopySpec earlier(
      Path file,
      Map<String, String> environment,
      Optional<RoofSites.At> at,
      String name,
      Path earlier,
      AtRest atRest)
      throws Refusal {
    PairReader reader = new PairReader(file, environment, at);
    return reader.said(
        (said, copies) -> {
          List<String> shared =
              reader
                  .model(said.meaning().model() == null ? "plain" : said.meaning().model())
                  .copies()
                  .shared();
          return copies.earlier(name, said, shared, earlier, atRest);
        });
  }

  /** The scratch databases on servers into which files of a pair may have been loaded. */
  public static List<CopySpec> scratches(
      Path file, Map<String, String> environment, Optional<RoofSites.At> at) throws Refusal {
    return new PairReader(file, environment, at)
        .said((said, copies) -> new FileCopies(copies, said).scratches());
  }

  /** Asked of what the file says. */
  private interface Asked<T> {
    T of(PairFile said, CopyReader copies) throws Refusal;
  }

  private <T> T said(Asked<T> asked) throws Refusal {
    try {
      PairFile written = weftex.core.yaml.StrictYaml.read(SmallFile.read(file), PairFile.class);
      PairFile said = at.map(site -> site.of(written)).orElse(written);
      return asked.of(said, new CopyReader(file, environment, this::wrong));
    } catch (IOException e) {
      throw wrong("it can't be read: " + FailureWords.of(e));
    } catch (YamlProblem e) {
      throw wrong(e.sentence());
    }
  }

  private Pair read(String text) throws Refusal {
    try {
      PairFile written = weftex.core.yaml.StrictYaml.read(text, PairFile.class);
      required("site", written.site());
      required("copies", written.copies());
      required("copies.staging", written.copies().staging());
      required("copies.live", written.copies().live());
      PairFile said = at.map(site -> site.of(written)).orElse(written);
      CopyReader copies = new CopyReader(file, environment, this::wrong);
      StandingReader standing = new StandingReader(this::wrong);
      SiteModel model =
          model(said.meaning().model() == null ? "plain" : said.meaning().model())
              .withStays(said.meaning().stays() == null ? Map.of() : said.meaning().stays())
              .withRoles(said.meaning().roles() == null ? Map.of() : said.meaning().roles());
      boolean masks = said.personal().masked() != null;
      if (masks) {
        model = model.withMasked(said.personal().masked().rules(model));
      }
      Pair pair =
          new Pair(
              file.toAbsolutePath().getParent(),
              said.site(),
              model,
              copies.read("staging", said, model.copies().shared()),
              copies.read("live", said, model.copies().shared()),
              addresses(said),
              new Pair.People(
                  said.personal().people() == null ? Map.of() : said.personal().people(),
                  masks,
                  masks ? said.personal().masked().tables() : Map.of(),
                  said.personal().maskedExcept() == null
                      ? List.of()
                      : said.personal().maskedExcept()),
              applying(said),
              new Pair.Standing(
                  standing.selections(said),
                  standing.rules(said),
                  files(said),
                  said.keeping().sealed() == null ? SealedEntry.OFF : said.keeping().sealed()),
              sites(said));
      if (pair.staging().place().equals(pair.live().place())) {
        throw wrong("staging and live are the same database (" + pair.live().place() + ")");
      }
      return pair;
    } catch (YamlProblem e) {
      throw wrong(e.sentence());
    }
  }

  private FileChoice files(PairFile said) throws Refusal {
    if (said.standing().files() == null) {
      return FileChoice.USUAL;
    }
    int most =
        said.standing().files().megabytes() == null ? 0 : said.standing().files().megabytes();
    if (said.standing().files().megabytes() != null && most < 1) {
      throw wrong("'megabytes' of 'files' must be 1 or more");
    }
    List<String> without = said.standing().files().without();
    return new FileChoice(false, without == null ? List.of() : without, List.of(), most * MEGABYTE);
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
          Approving.of(said, folder),
          SiteCommands.of(said, folder),
          RestorePointRules.of(said, folder),
          tidy(said));
    } catch (IllegalArgumentException e) {
      throw wrong(e.getMessage());
    }
  }

  private static Leftovers.Limits tidy(PairFile said) {
    PairFile.TidyEntry entry =
        said.keeping().tidy() == null ? new PairFile.TidyEntry(null, null) : said.keeping().tidy();
    int days = entry.days() == null ? DAYS_KEPT : entry.days();
    int keep = entry.keep() == null ? NEWEST_KEPT : entry.keep();
    if (days < 1 || keep < 1) {
      throw new IllegalArgumentException("'days' and 'keep' of 'tidy' must be 1 or more");
    }
    return new Leftovers.Limits(days, keep);
  }

  private AddressBook addresses(PairFile said) throws Refusal {
    List<Map<String, String>> pairs = new ArrayList<>();
    for (PairFile.ReplaceEntry entry :
        said.places().replace() == null
            ? List.<PairFile.ReplaceEntry>of()
            : said.places().replace()) {
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
            Boolean.TRUE.equals(said.places().hostsAlone()));
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
          Optional.ofNullable(entry.folder()).map(folder -> whole(folder, entry)));
    } catch (IllegalArgumentException e) {
      throw wrong("copies." + copy + ": " + e.getMessage());
    }
  }

  /** On this machine a folder may be named from that of weftex.yaml. */
  private String whole(String folder, PairFile.CopyEntry entry) {
    boolean isWhole = folder.startsWith("/") || folder.matches("[A-Za-z]:.*");
    return isWhole || entry.ssh() != null
        ? folder
        : file.toAbsolutePath().getParent().resolve(folder).normalize().toString();
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
}
