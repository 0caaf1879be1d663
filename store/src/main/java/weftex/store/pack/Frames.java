package weftex.store.pack;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weftex.store.FileProblem;

/**
 * A file that {@link FrameWriter} wrote, read from its beginning or, where it was read before, from
 * anywhere. What a killed process or a loss of power left torn at its end is not part of it.
 */
public final class Frames {
  private static final int NUMBERS = FrameWriter.NUMBERS;
  private static final int LARGEST = FrameWriter.FRAME;

  /** Zeros at the end of the file are what never reached the disk. */
  private static final int UNWRITTEN = 16;

  private final Path file;
  private final String again;
  private final Source source;
  private final Held held;

  /** The frames that were read, in their order. */
  private final List<Place> places = new ArrayList<>();

  private long whole;

  /** The bytes of such a file, wherever they are. */
  public interface Source {
    /** All of them, as far as they are there. */
    InputStream open() throws IOException;

    /** Some that were read before. */
    byte[] at(long offset, int length) throws IOException;
  }

  /**
   * Where a frame is.
   *
   * @param begin of the frame itself, behind its numbers
   * @param content where it begins in the content
   */
  private record Place(long begin, int length, long content, int contentLength) {}

  /** The content of frames that were read last, of files that are open at once: 8 MiB. */
  public static final class Held {
    private static final int MOST = 32;

    private final Map<Object, byte[]> contents =
        new LinkedHashMap<>(MOST, 0.75f, true) {
          private static final long serialVersionUID = 1;

          @Override
          protected boolean removeEldestEntry(Map.Entry<Object, byte[]> eldest) {
            return size() > MOST;
          }
        };

    private synchronized byte[] content(Frames of, Place place) throws IOException {
      Object key = List.of(of.file, place);
      byte[] content = contents.get(key);
      if (content == null) {
        content = of.content(of.source.at(place.begin(), place.length()), place.contentLength());
        contents.put(key, content);
      }
      return content;
    }
  }

  /**
   * @param file what it is called
   * @param again where a whole one is to be had, as a sentence
   * @param held is shared by files that are open at once
   */
  public Frames(Path file, String again, Source source, Held held) {
    this.file = file;
    this.again = again;
    this.source = source;
    this.held = held;
  }

  /** Whether a file begins like one that {@link FrameWriter} wrote. */
  public static boolean isOne(InputStream beginning) throws IOException {
    byte[] mark = beginning.readNBytes(Integer.BYTES);
    return mark.length == Integer.BYTES && numbers(mark).getInt() == FrameWriter.SKIPPABLE;
  }

  /** What can be appended to one. */
  public static byte[] appended(byte[] content) throws IOException {
    return FrameWriter.frames(content);
  }

  private static ByteBuffer numbers(byte[] bytes) {
    return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  /** The content, up to a frame that is torn. */
  public InputStream content() throws IOException {
    places.clear();
    whole = 0;
    return new Reading(source.open());
  }

  /** How many bytes of the file are whole frames; what is behind them is torn. */
  public long wholeLength() throws IOException {
    try (InputStream in = content()) {
      in.transferTo(OutputStream.nullOutputStream());
    }
    return whole;
  }

  /** Some bytes of the content, from a place that was read before. */
  public byte[] at(long offset, int length) throws IOException {
    byte[] bytes = new byte[length];
    int done = 0;
    for (int next = holding(offset); done < length && next < places.size(); next++) {
      Place place = places.get(next);
      byte[] content = held.content(this, place);
      int from = (int) (offset + done - place.content());
      int count = Math.min(length - done, content.length - from);
      System.arraycopy(content, from, bytes, done, count);
      done += count;
    }
    if (done < length) {
      throw new IOException(file + " became shorter while it was open");
    }
    return bytes;
  }

  /** The place that holds an offset of the content. */
  private int holding(long offset) {
    int low = 0;
    int high = places.size() - 1;
    while (low < high) {
      int middle = (low + high + 1) >>> 1;
      if (places.get(middle).content() <= offset) {
        low = middle;
      } else {
        high = middle - 1;
      }
    }
    return low;
  }

  /**
   * The content of the last frames.
   *
   * @param end the last bytes of the file, from the beginning of a frame on
   */
  public byte[] tail(byte[] end) throws IOException {
    return new Frames(file, again, new FramesInMemory(end), held).content().readAllBytes();
  }

  /**
   * The last bytes of a file from the beginning of a frame on, found by the numbers before each
   * frame.
   *
   * @param least how many bytes of content are wanted, if there are so many
   */
  public static byte[] end(SeekableByteChannel channel, int least) throws IOException {
    // The frames that hold the last content: where each begins, and how much it holds.
    Deque<long[]> last = new ArrayDeque<>();
    long held = 0;
    long at = 0;
    ByteBuffer head = ByteBuffer.allocate(FrameWriter.HEAD).order(ByteOrder.LITTLE_ENDIAN);
    while (at + FrameWriter.HEAD <= channel.size()) {
      channel.position(at);
      head.clear();
      while (head.hasRemaining() && channel.read(head) >= 0) {
        continue;
      }
      int length = head.getInt(FrameWriter.HEAD - NUMBERS);
      if (head.getInt(0) != FrameWriter.SKIPPABLE || length < 0) {
        // Whoever reads them says what is wrong.
        break;
      }
      last.addLast(new long[] {at, head.getInt(FrameWriter.HEAD - Integer.BYTES)});
      held += last.peekLast()[1];
      while (last.size() > 1 && held - last.peekFirst()[1] >= least) {
        held -= last.removeFirst()[1];
      }
      at += FrameWriter.HEAD + length;
    }
    long from = last.isEmpty() ? 0 : last.peekFirst()[0];
    ByteBuffer bytes = ByteBuffer.allocate((int) (channel.size() - from));
    channel.position(from);
    while (bytes.hasRemaining() && channel.read(bytes) >= 0) {
      continue;
    }
    return bytes.array();
  }

  private byte[] content(byte[] frame, int length) throws IOException {
    byte[] content;
    try {
      content = Frame.content(frame, 0, frame.length, LARGEST);
    } catch (IOException e) {
      throw damaged(e);
    }
    if (content.length != length) {
      throw damaged(null);
    }
    return content;
  }

  private FileProblem damaged(Exception e) {
    return new FileProblem(file + " is damaged, or something was written into it", again, e);
  }

  /** Reads frame by frame, and notes where each is. */
  private final class Reading extends PartsIn {
    private final InputStream in;
    private long content;

    private Reading(InputStream in) {
      this.in = in;
    }

    @Override
    protected byte[] nextPart() throws IOException {
      byte[] head = in.readNBytes(FrameWriter.HEAD);
      if (head.length < FrameWriter.HEAD || isZeros(head, 0)) {
        return null;
      }
      ByteBuffer numbers = numbers(head);
      boolean isHead = numbers.getInt() == FrameWriter.SKIPPABLE && numbers.getInt() == NUMBERS;
      int length = numbers.getInt();
      int contentLength = numbers.getInt();
      if (!isHead || length < 0 || length > Frame.bound(LARGEST)) {
        throw damaged(null);
      }
      byte[] frame = in.readNBytes(length);
      if (frame.length < length || isZeros(frame, Math.max(0, length - UNWRITTEN))) {
        return null;
      }
      byte[] opened = content(frame, contentLength);
      places.add(new Place(whole + FrameWriter.HEAD, length, content, contentLength));
      whole += FrameWriter.HEAD + length;
      content += contentLength;
      return opened;
    }

    private boolean isZeros(byte[] bytes, int from) {
      for (int i = from; i < bytes.length; i++) {
        if (bytes[i] != 0) {
          return false;
        }
      }
      return true;
    }

    @Override
    public void close() throws IOException {
      in.close();
    }
  }
}
