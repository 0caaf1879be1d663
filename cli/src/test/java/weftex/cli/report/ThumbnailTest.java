package weftex.cli.report;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import java.util.Optional;
import java.util.zip.CRC32;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ThumbnailTest {
  private static byte[] picture(String format, int width, int height) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageIO.write(new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB), format, out);
    return out.toByteArray();
  }

  private static Optional<String> view(byte[] bytes) {
    return Thumbnail.of(new ByteArrayInputStream(bytes));
  }

  @ParameterizedTest
  @ValueSource(strings = {"png", "jpeg", "gif", "bmp"})
  void aPictureIsMadeSmall(String format) throws IOException {
    String address = view(picture(format, 1600, 400)).orElseThrow();
    assertThat(address).startsWith("data:image/jpeg;base64,").hasSizeLessThan(12_000);
    BufferedImage small =
        ImageIO.read(
            new ByteArrayInputStream(
                Base64.getDecoder().decode(address.substring(address.indexOf(',') + 1))));
    assertThat(small.getWidth()).isEqualTo(160);
    assertThat(small.getHeight()).isEqualTo(40);
    assertThat(view(picture(format, 1, 1))).isPresent();
  }

  @Test
  void whatIsNoPictureOrABrokenOneHasNoView() throws IOException {
    byte[] whole = picture("png", 300, 300);
    assertThat(view(new byte[0])).isEmpty();
    assertThat(view("<svg onload=\"alert(1)\"/>".getBytes(StandardCharsets.UTF_8))).isEmpty();
    assertThat(view(Arrays.copyOf(whole, 40))).isEmpty();
    for (int at = 8; at < whole.length; at += 7) {
      byte[] damaged = whole.clone();
      damaged[at] ^= 0x55;
      // Whatever comes of it, nothing is thrown.
      view(damaged);
    }
  }

  /** A few bytes that say that they unpack to a picture of many gigabytes. */
  @Test
  void aPictureThatClaimsToBeHugeIsNotUnpacked() throws IOException {
    byte[] small = picture("png", 10, 10);
    ByteBuffer header = ByteBuffer.wrap(small);
    header.putInt(16, 60_000).putInt(20, 60_000);
    CRC32 check = new CRC32();
    check.update(small, 12, 17);
    header.putInt(29, (int) check.getValue());
    assertThat(view(small)).isEmpty();
  }
}
