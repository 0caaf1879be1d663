package weftex.store.capture;

import java.io.IOException;
import java.nio.ByteBuffer;
import org.apache.avro.file.Codec;
import org.apache.avro.file.CodecFactory;
import weftex.store.pack.Frame;

/**
 * Avro's codec {@code zstandard}, a block as one frame that says how long it is. Avro's own codec
 * streams through small buffers that grow, which took half of the time of reading a base. Files are
 * the same to any other reader.
 */
final class WholeFrameZstd extends Codec {
  private static final int LEVEL = 1;
  private static final int LARGEST_BLOCK = 1 << 30;

  /** Makes this codec known to readers, too. */
  static CodecFactory register() {
    CodecFactory factory =
        new CodecFactory() {
          @Override
          protected Codec createInstance() {
            return new WholeFrameZstd();
          }
        };
    CodecFactory.addCodec("zstandard", factory);
    return factory;
  }

  @Override
  public String getName() {
    return "zstandard";
  }

  @Override
  public ByteBuffer compress(ByteBuffer plain) {
    return ByteBuffer.wrap(Frame.of(plain.array(), offset(plain), plain.remaining(), LEVEL));
  }

  @Override
  public ByteBuffer decompress(ByteBuffer packed) throws IOException {
    return ByteBuffer.wrap(
        Frame.content(packed.array(), offset(packed), packed.remaining(), LARGEST_BLOCK));
  }

  private static int offset(ByteBuffer buffer) {
    return buffer.arrayOffset() + buffer.position();
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof WholeFrameZstd;
  }

  @Override
  public int hashCode() {
    return LEVEL;
  }
}
