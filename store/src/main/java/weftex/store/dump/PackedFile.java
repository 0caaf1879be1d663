package weftex.store.dump;

import com.github.luben.zstd.ZstdInputStream;
import com.github.luben.zstd.ZstdOutputStream;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PushbackInputStream;
import java.util.Locale;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;

/** Files that are compressed by gzip, zstd or in a zip archive, or not at all. */
final class PackedFile {
  private static final int BUFFER = 1 << 16;
  private static final int ZSTD_LEVEL = 3;
  private static final int[] GZIP = {0x1F, 0x8B};
  private static final int[] ZIP = {'P', 'K', 3, 4};
  private static final int[] ZSTD = {0x28, 0xB5, 0x2F, 0xFD};

  private PackedFile() {}

  /** Compresses as a file's name says. */
  static OutputStream pack(OutputStream out, String name) throws IOException {
    String lower = name.toLowerCase(Locale.ROOT);
    if (lower.endsWith(".zst")) {
      ZstdOutputStream packed = new ZstdOutputStream(out, ZSTD_LEVEL);
      packed.setChecksum(true);
      return packed;
    }
    return lower.endsWith(".gz") ? new GZIPOutputStream(out, BUFFER) : out;
  }

  /** Reads what is in a file, whatever it is called: its content tells how it is compressed. */
  static InputStream unpack(InputStream in) throws IOException {
    PushbackInputStream front = new PushbackInputStream(in, ZSTD.length);
    byte[] first = front.readNBytes(ZSTD.length);
    front.unread(first);
    InputStream plain =
        begins(first, ZSTD)
            ? new ZstdInputStream(front)
            : begins(first, GZIP) ? new GZIPInputStream(front, BUFFER) : front;
    return new BufferedInputStream(begins(first, ZIP) ? unzipped(front) : plain, BUFFER);
  }

  /** The one file of an archive. */
  private static InputStream unzipped(InputStream in) throws IOException {
    ZipInputStream archive = new ZipInputStream(in);
    ZipEntry entry = archive.getNextEntry();
    if (entry == null || entry.isDirectory()) {
      throw new ZipException("the archive has no file");
    }
    return archive;
  }

  private static boolean begins(byte[] first, int[] with) {
    for (int i = 0; i < with.length; i++) {
      if (i >= first.length || (first[i] & 0xFF) != with[i]) {
        return false;
      }
    }
    return true;
  }
}
