package weftex.core.changeset;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.HexFormat;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LineDigestTest {
  /** By another way: all lines in one piece. */
  private static String hash(String... lines) {
    MessageDigest digest = LineDigest.sha256();
    for (String line : lines) {
      digest.update((line + "\n").getBytes(StandardCharsets.UTF_8));
    }
    return HexFormat.of().formatHex(digest.digest());
  }

  @Test
  void eachLineCountsWithItsLineFeed() {
    try (LineDigest digest = new LineDigest(true)) {
      assertThat(digest.soFar()).isEqualTo(hash());
      digest.add("one".getBytes(StandardCharsets.UTF_8));
      assertThat(digest.soFar()).isEqualTo(hash("one"));
      digest.add("two".getBytes(StandardCharsets.UTF_8));
      digest.add(new byte[0]);
      assertThat(digest.soFar()).isEqualTo(hash("one", "two", ""));
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 3, 40})
  void longFilesAreHashedBesideTheParsingAndComeToTheSame(int megabytes) {
    String line = "x".repeat(100_000);
    MessageDigest whole = LineDigest.sha256();
    try (LineDigest digest = new LineDigest(true)) {
      for (int i = 0; i < megabytes * 10; i++) {
        byte[] bytes = (i + line).getBytes(StandardCharsets.UTF_8);
        digest.add(bytes);
        whole.update(bytes);
        whole.update((byte) '\n');
      }
      assertThat(digest.soFar()).isEqualTo(HexFormat.of().formatHex(whole.digest()));
    }
  }

  @Test
  void whereNobodyWantsItNothingIsComputedAndEverythingFits() {
    try (LineDigest digest = new LineDigest(false)) {
      digest.add("one".getBytes(StandardCharsets.UTF_8));
      assertThat(digest.soFar()).isEmpty();
      assertThat(digest.fits("claimed", "")).isTrue();
    }
  }

  @Test
  void aClaimFitsOnlyWhatWasComputed() {
    try (LineDigest digest = new LineDigest(true)) {
      assertThat(digest.fits(hash("one"), hash("one"))).isTrue();
      assertThat(digest.fits(hash("one"), hash("two"))).isFalse();
    }
  }
}
