package weftex.cli.drafting;

import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.fasterxml.jackson.datatype.jdk8.Jdk8Module;
import java.io.IOException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import weftex.cli.config.Pair;
import weftex.cli.session.Session;
import weftex.store.capture.Capture;

/**
 * What the findings of a comparison hang on besides the rows: the version, the base, the model in
 * force, and what differs between the copies by place.
 */
final class ComparisonTerms {
  private static final JsonMapper JSON =
      JsonMapper.builder()
          .addModule(new Jdk8Module())
          .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
          .disable(SerializationFeature.FAIL_ON_EMPTY_BEANS)
          .build();

  private ComparisonTerms() {}

  /** Their SHA-256; another one whenever any of them is another. */
  static String of(Pair pair, Capture base) throws IOException {
    byte[] said =
        JSON.writeValueAsBytes(
            List.of(
                Session.TOOL,
                String.valueOf(base.id()),
                pair.model(),
                pair.addresses(),
                pair.staging().prefix(),
                pair.live().prefix(),
                pair.people()));
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(said));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
