package weftex.store.rows;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import java.util.zip.CRC32;
import java.util.zip.CRC32C;
import org.junit.jupiter.api.Test;

class SeededCrcTest {
  private final SeededCrc check = SeededCrc.crc32c();

  @Test
  void fromZeroItIsTheOneThatEverybodyKnows() {
    byte[] digits = "123456789".getBytes(StandardCharsets.US_ASCII);
    assertThat(check.of(0, digits)).isEqualTo(0xE3069283L);
    assertThat(SeededCrc.crc32().of(0, digits)).isEqualTo(0xCBF43926L);
    assertThat(check.of(0, new byte[0])).isZero();
    assertThat(check.of(77, new byte[0])).isEqualTo(77);
  }

  @Test
  void itGoesOnWhereItStoppedHoweverLongThePartsAre() {
    Random random = new Random(3);
    for (int round = 0; round < 500; round++) {
      byte[] whole = new byte[random.nextInt(5000)];
      random.nextBytes(whole);
      int cut = random.nextInt(whole.length + 1);
      CRC32C known = new CRC32C();
      known.update(whole, 0, whole.length);
      byte[] first = java.util.Arrays.copyOf(whole, cut);
      byte[] second = java.util.Arrays.copyOfRange(whole, cut, whole.length);
      assertThat(check.of(check.of(0, first), second)).isEqualTo(known.getValue());
      CRC32 other = new CRC32();
      other.update(whole, 0, whole.length);
      SeededCrc crc32 = SeededCrc.crc32();
      assertThat(crc32.of(crc32.of(0, first), second)).isEqualTo(other.getValue());
    }
  }

  @Test
  void onlyTheLowerBitsOfTheBeginningCount() {
    byte[] text = "Hesk".repeat(100).getBytes(StandardCharsets.US_ASCII);
    assertThat(check.of(0x1_0000_0007L, text)).isEqualTo(check.of(7, text));
    assertThat(check.of(-1L, text)).isEqualTo(check.of(0xFFFFFFFFL, text));
  }
}
