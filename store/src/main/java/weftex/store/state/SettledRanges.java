package weftex.store.state;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import weftex.core.compare.KnownRanges;
import weftex.core.row.Table;

/**
 * What comparisons of one direction found to say the same on both copies, in a file that may be
 * deleted at any time: then the ranges are read once more. It holds under its terms alone (base,
 * configuration, model, version), and each table's under its columns.
 */
public final class SettledRanges implements KnownRanges {
  private static final int FORMAT = 1;
  private static final JsonMapper JSON = new JsonMapper();

  private final Path file;
  private final String terms;
  private final Map<String, Ranges> before;
  private final Map<String, Ranges> now = new HashMap<>();

  /**
   * The ranges of a table.
   *
   * @param shape its columns, and how many keys a range spans
   */
  private record Ranges(String shape, Set<Digests> digests) {}

  private SettledRanges(Path file, String terms, Map<String, Ranges> before) {
    this.file = file;
    this.terms = terms;
    this.before = before;
  }

  /**
   * Reads what is known; a file of other terms, of another format or a damaged one is none.
   *
   * @param terms whatever the findings hang on, besides the digests
   */
  public static SettledRanges open(Path file, String terms) {
    Map<String, Ranges> known = new HashMap<>();
    try {
      JsonNode json = Files.exists(file) ? JSON.readTree(Files.readAllBytes(file)) : null;
      boolean holds =
          json != null
              && json.path("format").asInt() == FORMAT
              && json.path("terms").asText().equals(terms);
      if (holds) {
        json.path("tables")
            .properties()
            .forEach(
                table -> {
                  Set<Digests> digests = new LinkedHashSet<>();
                  table.getValue().path("ranges").forEach(each -> digests.add(digests(each)));
                  known.put(
                      table.getKey(), new Ranges(table.getValue().path("shape").asText(), digests));
                });
      }
    } catch (IOException e) {
      // It can't be read, or is no JSON: then nothing is known.
      return new SettledRanges(file, terms, Map.of());
    }
    return new SettledRanges(file, terms, known);
  }

  private static Digests digests(JsonNode each) {
    return new Digests(
        each.path(0).asLong(),
        each.path(1).asLong(),
        each.path(2).asLong(),
        each.path(3).asLong(),
        each.path(4).asLong());
  }

  private static String shape(Table table, long width) {
    return table.columns().stream()
            .map(column -> column.name() + " " + column.type())
            .collect(Collectors.joining(", "))
        + "; "
        + width;
  }

  @Override
  public boolean isAlike(Table table, long width, Digests digests) {
    Ranges known = before.get(table.name());
    return known != null
        && known.digests().contains(digests)
        && known.shape().equals(shape(table, width));
  }

  @Override
  public void alike(Table table, long width, Digests digests) {
    now.computeIfAbsent(
            table.name(), name -> new Ranges(shape(table, width), new LinkedHashSet<>()))
        .digests()
        .add(digests);
  }

  /** Keeps what this comparison found, if it is another thing than was known. */
  public void save() {
    if (now.equals(before)) {
      return;
    }
    try {
      Files0600.createFolder(file.getParent());
      Files0600.whole(
          file,
          out -> {
            try (JsonGenerator json = JSON.createGenerator(out)) {
              write(json);
            }
          });
    } catch (IOException e) {
      // Nothing is lost but time.
    }
  }

  private void write(JsonGenerator json) throws IOException {
    json.writeStartObject();
    json.writeNumberField("format", FORMAT);
    json.writeStringField("terms", terms);
    json.writeObjectFieldStart("tables");
    for (Map.Entry<String, Ranges> table : now.entrySet()) {
      json.writeObjectFieldStart(table.getKey());
      json.writeStringField("shape", table.getValue().shape());
      json.writeArrayFieldStart("ranges");
      for (Digests each : table.getValue().digests()) {
        json.writeArray(
            new long[] {
              each.range(), each.sourceRows(), each.source(), each.targetRows(), each.target()
            },
            0,
            5);
      }
      json.writeEndArray();
      json.writeEndObject();
    }
    json.writeEndObject();
    json.writeEndObject();
  }
}
