package weftex.store.pack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.github.luben.zstd.ZstdInputStream;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.store.FileProblem;

/**
 * What was compressed in frames can be read from anywhere, cut off anywhere, and altered nowhere.
 */
class FramesTest {
  @TempDir Path folder;

  private record File(byte[] bytes) implements Frames.Source {
    @Override
    public InputStream open() {
      return new ByteArrayInputStream(bytes);
    }

    @Override
    public byte[] at(long offset, int length) {
      return Arrays.copyOfRange(bytes, (int) offset, (int) offset + length);
    }
  }

  private static Frames frames(byte[] bytes) {
    return new Frames(Path.of("receipt"), "Bring it back.", new File(bytes), new Frames.Held());
  }

  private static byte[] text(int lines) {
    StringBuilder text = new StringBuilder();
    Random random = new Random(5);
    for (int i = 0; i < lines; i++) {
      text.append("{\"sailing\":").append(random.nextLong()).append("}\n");
    }
    return text.toString().getBytes(StandardCharsets.UTF_8);
  }

  private static String words(byte[] bytes) {
    return new String(bytes, StandardCharsets.UTF_8);
  }

  /** Written with pauses of which each ends a frame. */
  private static byte[] packed(byte[] plain, int... pauses) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (FrameWriter writer = new FrameWriter(out)) {
      int from = 0;
      for (int pause : pauses) {
        writer.write(plain, from, pause - from);
        writer.flush();
        from = pause;
      }
      writer.write(plain, from, plain.length - from);
    }
    return out.toByteArray();
  }

  @Test
  void anyPlaceIsFoundAndAnyProgramReadsIt() throws Exception {
    byte[] plain = text(40_000);
    byte[] packed = packed(plain, 1, 300, FrameWriter.FRAME, FrameWriter.FRAME + 7);
    assertThat(packed.length).isLessThan(plain.length * 3 / 4);
    Frames frames = frames(packed);
    assertThat(frames.content().readAllBytes()).isEqualTo(plain);
    assertThat(frames.wholeLength()).isEqualTo(packed.length);
    Random random = new Random(7);
    for (int i = 0; i < 500; i++) {
      int from = random.nextInt(plain.length);
      int length = Math.min(plain.length - from, random.nextInt(2 * FrameWriter.FRAME));
      assertThat(frames.at(from, length)).isEqualTo(Arrays.copyOfRange(plain, from, from + length));
    }
    assertThatThrownBy(() -> frames.at(plain.length - 1, 2)).hasMessageContaining("became shorter");
    try (ZstdInputStream other = new ZstdInputStream(new ByteArrayInputStream(packed))) {
      assertThat(other.readAllBytes()).isEqualTo(plain);
    }
  }

  @Test
  void theEndIsReadWithoutTheRest() throws Exception {
    byte[] plain = text(40_000);
    Path file = Files.write(folder.resolve("f"), packed(plain, 10, plain.length - 30));
    try (FileChannel channel = FileChannel.open(file)) {
      for (int least : new int[] {0, 1, 30, 31, 5_000, 1 << 19, plain.length, 2 * plain.length}) {
        byte[] end = Frames.end(channel, least);
        byte[] tail = frames(end).tail(end);
        assertThat(tail.length).isBetween(Math.min(least, plain.length), least + (1 << 18));
        assertThat(words(plain)).endsWith(words(tail));
      }
    }
  }

  @Test
  void whatATornEndLeftIsTheFramesBeforeIt() throws Exception {
    byte[] plain = text(12);
    byte[] packed = packed(plain, 100, 200);
    long first = frames(packed(Arrays.copyOf(plain, 100))).wholeLength();
    for (int length = 0; length < packed.length; length++) {
      byte[] cut = Arrays.copyOf(packed, length);
      Frames frames = frames(cut);
      byte[] read = frames.content().readAllBytes();
      assertThat(words(plain)).startsWith(words(read));
      assertThat(read.length).isIn(0, 100, 200);
      assertThat(frames.wholeLength()).isLessThanOrEqualTo(length);
      // As a loss of power leaves it: the length is there, the bytes are not.
      byte[] zeros = Arrays.copyOf(cut, packed.length + 64);
      if (length == 0 || length >= FrameWriter.HEAD && length <= first - FrameWriter.HEAD) {
        assertThat(frames(zeros).content().readAllBytes()).isEmpty();
      }
    }
    byte[] more = Frames.appended(new byte[] {'x'});
    byte[] longer = Arrays.copyOf(packed, packed.length + more.length);
    System.arraycopy(more, 0, longer, packed.length, more.length);
    assertThat(frames(longer).content().readAllBytes())
        .isEqualTo(
            (new String(plain, StandardCharsets.UTF_8) + "x").getBytes(StandardCharsets.UTF_8));
  }

  /** Every byte turned, one after the other: never another content. */
  @Test
  void nothingElseComesOutOfAnAlteredFile() throws Exception {
    byte[] plain = text(20);
    byte[] packed = packed(plain, 100);
    int refused = 0;
    for (int i = 0; i < packed.length; i++) {
      byte[] altered = packed.clone();
      altered[i] ^= 0x21;
      try {
        assertThat(words(plain)).startsWith(words(frames(altered).content().readAllBytes()));
      } catch (FileProblem e) {
        assertThat(e).hasMessageContaining("receipt is damaged");
        refused++;
      }
    }
    assertThat(refused).isGreaterThan(packed.length * 3 / 4);
  }

  @Test
  void whatClaimsToBeHugeTakesNoMemory() throws Exception {
    byte[] packed = packed(new byte[1000]);
    for (int at : new int[] {8, 12}) {
      byte[] altered = packed.clone();
      Arrays.fill(altered, at, at + 4, (byte) 0x7f);
      assertThatThrownBy(() -> frames(altered).content().readAllBytes())
          .isInstanceOf(FileProblem.class);
    }
    byte[] bomb = Frame.of(new byte[1 << 24], 0, 1 << 24, 3);
    byte[] head = Arrays.copyOf(packed, FrameWriter.HEAD);
    java.nio.ByteBuffer.wrap(head)
        .order(java.nio.ByteOrder.LITTLE_ENDIAN)
        .putInt(8, bomb.length)
        .putInt(12, 1 << 24);
    byte[] file = Arrays.copyOf(head, head.length + bomb.length);
    System.arraycopy(bomb, 0, file, head.length, bomb.length);
    assertThatThrownBy(() -> frames(file).content().readAllBytes()).isInstanceOf(FileProblem.class);
  }
}
