package weftex.cli.command;

import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import weftex.cli.config.Pair;
import weftex.cli.session.FailureTrace;
import weftex.cli.session.Session;
import weftex.cli.workplace.Workplace;
import weftex.store.Refusal;
import weftex.store.copy.Copy;
import weftex.store.state.Files0600;

/**
 * What helps whoever is asked for help: versions, settings, the model in force, the log and the
 * last failure. No row of the site is among it, and no password.
 */
final class Bundle {
  private static final JsonMapper JSON =
      JsonMapper.builder()
          .addModule(new Jdk8Module())
          .enable(SerializationFeature.INDENT_OUTPUT)
          .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
          .disable(SerializationFeature.FAIL_ON_EMPTY_BEANS)
          .build();

  private final Map<String, byte[]> files = new LinkedHashMap<>();

  private Bundle() {}

  /** Gathers it. */
  static Bundle of(Workplace place, List<Copy> copies) throws IOException, Refusal {
    Bundle bundle = new Bundle();
    bundle.files.put("versions.json", JSON.writeValueAsBytes(versions(copies)));
    bundle.files.put("settings.json", JSON.writeValueAsBytes(settings(place.pair(), copies)));
    bundle.files.put("model.json", JSON.writeValueAsBytes(place.pair().model()));
    for (Path log : newest(place.state().folder().resolve("log"), ".log", Integer.MAX_VALUE)) {
      bundle.files.put("log/" + log.getFileName(), Files.readAllBytes(log));
    }
    for (Path failure : newest(place.state().failures(), ".txt", 1)) {
      bundle.files.put("failures/" + failure.getFileName(), withoutMessages(failure));
    }
    return bundle;
  }

  private static Map<String, Object> versions(List<Copy> copies) throws Refusal {
    Map<String, Object> versions = new LinkedHashMap<>();
    versions.put("weftex", Session.VERSION);
    versions.put("java", Runtime.version().toString());
    versions.put("system", System.getProperty("os.name") + " " + System.getProperty("os.version"));
    copies.forEach(copy -> versions.put(copy.name(), copy.catalog().server()));
    return versions;
  }

  /** What weftex.yaml comes to, without what somebody logs in with. */
  private static Map<String, Object> settings(Pair pair, List<Copy> copies) throws Refusal {
    Map<String, Object> settings = new TreeMap<>();
    settings.put("site", pair.site());
    settings.put("model", pair.model().model());
    settings.put("addresses", pair.addresses());
    settings.put("approvals", pair.approvals().people());
    settings.put("signers", pair.approvals().signers().isPresent());
    settings.put("rules", pair.rules().size());
    settings.put("selections", pair.selections().keySet());
    for (Copy copy : copies) {
      Map<String, Object> one = new LinkedHashMap<>();
      one.put("kind", copy.spec().getClass().getSimpleName());
      one.put("prefix", copy.spec().prefix());
      one.put("line", copy.line());
      one.put("tables", new TreeMap<>(copy.catalog().tables()).keySet());
      settings.put(copy.name(), one);
    }
    return settings;
  }

  private static byte[] withoutMessages(Path failure) throws IOException {
    return FailureTrace.withoutMessages(Files.readString(failure)).getBytes(StandardCharsets.UTF_8);
  }

  private static List<Path> newest(Path folder, String suffix, int most) throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> all = Files.list(folder)) {
      List<Path> files =
          all.filter(file -> file.toString().endsWith(suffix))
              .sorted()
              .collect(Collectors.toList());
      return files.subList(Math.max(0, files.size() - most), files.size());
    }
  }

  /** What is in it: the names of files and how large they are. */
  Map<String, Integer> contents() {
    Map<String, Integer> contents = new LinkedHashMap<>();
    files.forEach((name, bytes) -> contents.put(name, bytes.length));
    return contents;
  }

  /**
   * Writes it.
   *
   * @throws Refusal if the file is there already
   */
  void write(Path file, String shown) throws IOException, Refusal {
    if (Files.exists(file)) {
      throw new Refusal(
          Refusal.Kind.PROTECTED,
          shown + " is there already. Nothing was written.",
          "Name another file.");
    }
    Files0600.whole(
        file,
        out -> {
          try (ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8)) {
            for (Map.Entry<String, byte[]> entry : files.entrySet()) {
              zip.putNextEntry(new ZipEntry(entry.getKey()));
              zip.write(entry.getValue());
              zip.closeEntry();
            }
          }
        });
  }
}
