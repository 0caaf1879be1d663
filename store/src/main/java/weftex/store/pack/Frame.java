package weftex.store.pack;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdCompressCtx;
import com.github.luben.zstd.ZstdDecompressCtx;
import com.github.luben.zstd.ZstdException;
import java.io.IOException;
import java.util.Arrays;

/** Bytes in memory as one frame of Zstandard (RFC 8878) with its checksum. */
public final class Frame {
  // To make them takes as long as to read a small frame.
  private static final ThreadLocal<ZstdDecompressCtx> DECOMPRESSING =
      ThreadLocal.withInitial(ZstdDecompressCtx::new);

  /** With its checksum a damaged frame is known as one. */
  private static final ThreadLocal<ZstdCompressCtx> COMPRESSING =
      ThreadLocal.withInitial(() -> new ZstdCompressCtx().setChecksum(true));

  private Frame() {}

  /** Compresses; the frame says how long its content is. */
  public static byte[] of(byte[] plain, int from, int length, int level) {
    byte[] bytes = new byte[bound(length)];
    int size =
        COMPRESSING
            .get()
            .setLevel(level)
            .compressByteArray(bytes, 0, bytes.length, plain, from, length);
    return Arrays.copyOf(bytes, size);
  }

  /** How long a frame of so many bytes is at the most. */
  static int bound(int length) {
    return (int) Zstd.compressBound(length);
  }

  /**
   * What is in a frame.
   *
   * @param most how long that may be
   * @throws IOException if it is damaged, or does not say how long it is
   */
  public static byte[] content(byte[] bytes, int from, int length, int most) throws IOException {
    long size = Zstd.getFrameContentSize(bytes, from, length);
    if (size < 0 || size > most) {
      throw new IOException("a block does not say how long it is");
    }
    byte[] plain = new byte[(int) size];
    try {
      DECOMPRESSING.get().decompressByteArray(plain, 0, plain.length, bytes, from, length);
    } catch (ZstdException e) {
      throw new IOException(e.getMessage(), e);
    }
    return plain;
  }
}
