package weftex.store.capture;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import weftex.core.changeset.JsonLines;
import weftex.core.match.BaseEvidence;
import weftex.core.row.Value;
import weftex.store.seal.AtRest;

/** What the rows of a worked-out base stand on, beside its tables. Memory grows with these rows. */
public final class Evidence implements BaseEvidence {
  private static final String FILE = "evidence.jsonl";

  private final Map<String, Map<String, Why>> rows = new LinkedHashMap<>();

  /** Adds a row. */
  public void add(String table, List<Value> key, Why why) {
    rows.computeIfAbsent(table, name -> new HashMap<>()).put(text(key), why);
  }

  @Override
  public Optional<Why> of(String table, List<Value> key) {
    return Optional.ofNullable(rows.getOrDefault(table, Map.of()).get(text(key)));
  }

  private static String text(List<Value> key) {
    return String.join("\t", key.stream().map(Value::display).toList());
  }

  /** Writes it into a folder; its SHA-256. */
  String write(Path folder, AtRest atRest) throws IOException {
    Path file = folder.resolve(FILE);
    try (OutputStream out = atRest.create(file)) {
      for (Map.Entry<String, Map<String, Why>> table : rows.entrySet()) {
        for (Map.Entry<String, Why> row : table.getValue().entrySet()) {
          JsonLines.write(
              out,
              json -> {
                json.writeStringField("table", table.getKey());
                json.writeStringField("key", row.getKey());
                json.writeStringField("why", row.getValue().words());
                json.writeStringField(
                    "weight", row.getValue().weight().name().toLowerCase(Locale.ROOT));
              });
        }
      }
    }
    return Hashes.of(atRest, file);
  }

  static Evidence read(Path folder, String sha256, AtRest atRest) throws IOException {
    Path file = folder.resolve(FILE);
    try {
      if (!Hashes.of(atRest, file).equals(sha256)) {
        throw DamagedBase.of(file, "it is not as it was written");
      }
      Evidence evidence = new Evidence();
      try (BufferedReader lines =
          new BufferedReader(new InputStreamReader(atRest.open(file), StandardCharsets.UTF_8))) {
        for (String line = lines.readLine(); line != null; line = lines.readLine()) {
          JsonNode row = JsonLines.parse(line.getBytes(StandardCharsets.UTF_8));
          evidence
              .rows
              .computeIfAbsent(row.get("table").asText(), name -> new HashMap<>())
              .put(
                  row.get("key").asText(),
                  new Why(
                      row.get("why").asText(),
                      Weight.valueOf(row.get("weight").asText().toUpperCase(Locale.ROOT))));
        }
      }
      return evidence;
    } catch (IOException e) {
      throw DamagedBase.of(file, e);
    }
  }
}
