package weftex.store.capture;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Path;
import org.apache.avro.file.SeekableInput;
import weftex.store.seal.AtRest;

/** A file as Avro reads it, whether it is encrypted or not. */
final class AvroInput implements SeekableInput {
  private final SeekableByteChannel channel;

  private AvroInput(SeekableByteChannel channel) {
    this.channel = channel;
  }

  static AvroInput of(AtRest atRest, Path file) throws IOException {
    return new AvroInput(atRest.channel(file));
  }

  @Override
  public void seek(long position) throws IOException {
    channel.position(position);
  }

  @Override
  public long tell() throws IOException {
    return channel.position();
  }

  @Override
  public long length() throws IOException {
    return channel.size();
  }

  @Override
  public int read(byte[] into, int from, int count) throws IOException {
    return channel.read(ByteBuffer.wrap(into, from, count));
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }
}
