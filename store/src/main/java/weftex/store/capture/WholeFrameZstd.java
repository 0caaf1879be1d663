package weftex.store.capture;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdCompressCtx;
import com.github.luben.zstd.ZstdDecompressCtx;
import com.github.luben.zstd.ZstdException;
import java.io.IOException;
import java.nio.ByteBuffer;
import org.apache.avro.file.Codec;
import org.apache.avro.file.CodecFactory;

/**
 * Avro's codec {@code zstandard}, a block as one frame that says how long it is. Avro's own codec
 * streams through small buffers that grow, which took half of the time of reading a base. Files are
 * the same to any other reader.
 */
final class WholeFrameZstd extends Codec {
  private static final int LEVEL = 1;
  private static final int LARGEST_BLOCK = 1 << 30;

  // To make them takes as long as to read a small block.
  private static final ThreadLocal<ZstdDecompressCtx> DECOMPRESSING =
      ThreadLocal.withInitial(ZstdDecompressCtx::new);

  /** With its checksum a damaged block is known as one. */
  private static final ThreadLocal<ZstdCompressCtx> COMPRESSING =
      ThreadLocal.withInitial(() -> new ZstdCompressCtx().setLevel(LEVEL).setChecksum(true));

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
    byte[] bytes = new byte[(int) Zstd.compressBound(plain.remaining())];
    int size =
        COMPRESSING
            .get()
            .compressByteArray(
                bytes, 0, bytes.length, plain.array(), offset(plain), plain.remaining());
    return ByteBuffer.wrap(bytes, 0, size);
  }

  @Override
  public ByteBuffer decompress(ByteBuffer packed) throws IOException {
    byte[] frame = packed.array();
    int from = offset(packed);
    int length = packed.remaining();
    long size = Zstd.getFrameContentSize(frame, from, length);
    if (size < 0 || size > LARGEST_BLOCK) {
      throw new IOException("a block does not say how long it is");
    }
    byte[] plain = new byte[(int) size];
    try {
      DECOMPRESSING.get().decompressByteArray(plain, 0, plain.length, frame, from, length);
    } catch (ZstdException e) {
      throw new IOException(e.getMessage(), e);
    }
    return ByteBuffer.wrap(plain);
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
