package weftex.store.capture;

import com.fasterxml.jackson.core.JacksonException;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;
import java.util.Map;
import java.util.TreeMap;
import weftex.store.seal.AtRest;
import weftex.store.state.Files0600;

/**
 * Where a base stands among all bases of its pair, and in the ledgers of both copies: a file beside
 * its manifest, written when it is put in force for the first time.
 *
 * @param order which of all bases it is, from 1; 0 for one of an older version
 * @param ledgers by the copy's name; a copy whose ledger nobody can write to may be missing
 * @param sha256 of all this and of the manifest that it belongs to
 */
record BasePlace(long order, Map<String, LedgerPlace> ledgers, String sha256) {
  private static final String FILE = "place.json";
  private static final BasePlace UNKNOWN = new BasePlace(0, Map.of(), "");

  BasePlace {
    ledgers = ledgers == null ? Map.of() : Map.copyOf(ledgers);
  }

  /** Writes the place of a base into its folder. */
  static void write(Path folder, long order, Map<String, LedgerPlace> ledgers) throws IOException {
    BasePlace place = new BasePlace(order, ledgers, seal(folder, order, ledgers));
    byte[] json = new JsonMapper().writeValueAsBytes(place);
    Files0600.whole(folder.resolve(FILE), out -> out.write(json));
  }

  /**
   * Reads the place of a base.
   *
   * @throws DamagedBase if it is not as it was written
   */
  static BasePlace of(Path folder) throws IOException {
    Path file = folder.resolve(FILE);
    if (!Files.exists(file)) {
      return UNKNOWN;
    }
    BasePlace place;
    try {
      place = new JsonMapper().readValue(Files.readAllBytes(file), BasePlace.class);
    } catch (JacksonException e) {
      throw DamagedBase.of(file, "it was cut short or altered");
    }
    if (!seal(folder, place.order(), place.ledgers()).equals(place.sha256())) {
      throw DamagedBase.of(file, "it is not as it was written");
    }
    return place;
  }

  private static String seal(Path folder, long order, Map<String, LedgerPlace> ledgers)
      throws IOException {
    StringBuilder said =
        new StringBuilder(Hashes.of(AtRest.CLEAR, folder.resolve(Capture.MANIFEST)));
    said.append('\n').append(order);
    new TreeMap<>(ledgers)
        .forEach(
            (name, place) ->
                said.append('\n')
                    .append(name)
                    .append('\t')
                    .append(place.copy())
                    .append('\t')
                    .append(place.mark())
                    .append('\t')
                    .append(place.sequence()));
    return HexFormat.of()
        .formatHex(Hashes.sha256().digest(said.toString().getBytes(StandardCharsets.UTF_8)));
  }
}
