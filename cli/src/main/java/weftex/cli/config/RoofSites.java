package weftex.cli.config;

import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import weftex.core.address.Address;
import weftex.core.model.SiteModel;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.database.CopySpec;
import weftex.store.state.Files0600;

/**
 * The sites under one roof that both copies have: the first under the prefix that weftex.yaml says,
 * the others under that and their number ({@code wp_2_}). Each is worked on as a pair of its own.
 *
 * @param sites in the order of their numbers
 */
public record RoofSites(List<Site> sites) {
  /** The word for every site that both copies have. */
  static final String ALL = "all";

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /**
   * One site.
   *
   * @param addresses by which each copy knows it; empty where that is not known
   */
  public record Site(int number, Map<String, String> addresses) {
    public Site {
      addresses = Map.copyOf(addresses);
    }

    /** As a person knows it. */
    public String words() {
      String address = addresses.getOrDefault("live", addresses.getOrDefault("staging", ""));
      return "site " + number + (address.isEmpty() ? "" : ", " + address);
    }
  }

  /**
   * One of several sites, with what must be known of the others.
   *
   * @param others addresses of the other sites, by copy
   */
  public record At(Site site, List<Map<String, String>> others) {
    PairFile of(PairFile written) {
      return written.at(site.number(), site.addresses());
    }
  }

  public RoofSites {
    sites = List.copyOf(sites);
  }

  static boolean isNumber(String text) {
    return text.matches("[1-9]\\d{0,8}");
  }

  /**
   * Looks into both copies.
   *
   * @param pair the first site
   * @throws Refusal if a copy can't be reached, or lacks a site that weftex.yaml names
   */
  public static RoofSites find(Pair pair) throws Refusal {
    List<Copy> both = Copy.reach(pair.staging(), pair.live());
    Set<Integer> numbers = new TreeSet<>(both.get(0).catalog().otherSites());
    numbers.retainAll(both.get(1).catalog().otherSites());
    numbers.add(1);
    if (!pair.sites().equals(List.of(ALL))) {
      Set<Integer> said =
          pair.sites().stream()
              .map(Integer::valueOf)
              .collect(Collectors.toCollection(TreeSet::new));
      for (int number : said) {
        if (!numbers.contains(number)) {
          throw new Refusal(
              Refusal.Kind.WRONG_INPUT,
              "'sites' names site "
                  + number
                  + ", which the copies do not both have. Nothing was changed.",
              "Both have "
                  + numbers.stream().map(String::valueOf).collect(Collectors.joining(", "))
                  + ".");
        }
      }
      numbers = said;
    }
    List<Site> sites = new ArrayList<>();
    for (int number : numbers) {
      List<Copy> copies =
          number == 1 ? both : Copy.reach(at(pair.staging(), number), at(pair.live(), number));
      Map<String, String> addresses = new LinkedHashMap<>();
      for (Copy copy : copies) {
        address(pair.model(), copy).ifPresent(address -> addresses.put(copy.name(), address));
      }
      sites.add(new Site(number, addresses));
    }
    return new RoofSites(sites);
  }

  private static CopySpec at(CopySpec first, int number) {
    return first.withPrefix(first.prefix() + number + "_");
  }

  private static Optional<String> address(SiteModel model, Copy copy) throws Refusal {
    Optional<SiteModel.AddressRule> rule = model.ownAddress();
    Optional<String> said =
        rule.isEmpty()
            ? Optional.empty()
            : copy.lookup().cell(rule.get().table(), rule.get().where(), rule.get().column());
    return said.filter(RoofSites::isAddress);
  }

  private static boolean isAddress(String text) {
    try {
      Address.parse(text);
      return true;
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  /** One of them, with what must be known of the others. */
  public Optional<At> at(String said) {
    return find(said).map(site -> new At(site, others(site)));
  }

  /** The site whose number, or the end of whose address, is said; empty if it is none. */
  public Optional<Site> find(String said) {
    Optional<Site> byNumber =
        sites.stream().filter(site -> said.equals(String.valueOf(site.number()))).findFirst();
    return byNumber.or(
        () ->
            sites.stream()
                .filter(
                    site ->
                        site.addresses().values().stream()
                            .anyMatch(address -> address.replaceFirst("/+$", "").endsWith(said)))
                .findFirst());
  }

  private List<Map<String, String>> others(Site of) {
    return sites.stream()
        .filter(site -> site != of && site.addresses().size() == 2)
        .map(Site::addresses)
        .toList();
  }

  /** Keeps what was found for commands that do not look again. */
  public void save(Path file) throws IOException {
    Files0600.createFolder(file.getParent());
    Path fresh = file.resolveSibling(file.getFileName() + ".new");
    try (OutputStream out = Files0600.create(fresh)) {
      JSON.writeValue(out, sites);
    }
    Files.move(
        fresh,
        file,
        java.nio.file.StandardCopyOption.REPLACE_EXISTING,
        java.nio.file.StandardCopyOption.ATOMIC_MOVE);
  }

  /** What was found last; empty if nobody has looked. */
  public static Optional<RoofSites> saved(Path file) throws IOException {
    return Files.exists(file)
        ? Optional.of(
            new RoofSites(JSON.readValue(file.toFile(), new TypeReference<List<Site>>() {})))
        : Optional.empty();
  }
}
