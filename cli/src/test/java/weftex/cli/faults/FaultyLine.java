package weftex.cli.faults;

import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/**
 * A line to a database server that sees every command go by and can break off at one. Commands are
 * counted over all connections, from 1.
 */
final class FaultyLine implements AutoCloseable {
  private final ServerSocket listening;
  private final int port;
  private final List<Socket> sockets = new CopyOnWriteArrayList<>();
  private final List<String> seen = new ArrayList<>();
  private int at = Integer.MAX_VALUE;
  private boolean after;
  private Runnable fault = () -> {};

  /**
   * @param port of the server, on this machine
   */
  FaultyLine(int port) throws IOException {
    this.port = port;
    this.listening = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    Thread thread = new Thread(this::accept, "line");
    thread.setDaemon(true);
    thread.start();
  }

  int port() {
    return listening.getLocalPort();
  }

  /** Forgets what was seen, and breaks nothing. */
  synchronized void whole() {
    breakAt(Integer.MAX_VALUE, false, () -> {});
  }

  /**
   * Breaks off all connections at a command.
   *
   * @param command which, counted from now
   * @param afterwards whether the server gets the command, though nobody its answer
   * @param also what else happens at that moment
   */
  synchronized void breakAt(int command, boolean afterwards, Runnable also) {
    seen.clear();
    at = command;
    after = afterwards;
    fault = also;
  }

  /** The commands so far, as far as they have words. */
  synchronized List<String> seen() {
    return List.copyOf(seen);
  }

  private void accept() {
    while (!listening.isClosed()) {
      try {
        Socket client = listening.accept();
        Socket server = new Socket(InetAddress.getLoopbackAddress(), port);
        client.setTcpNoDelay(true);
        server.setTcpNoDelay(true);
        sockets.addAll(List.of(client, server));
        run(() -> commands(client, server));
        run(() -> server.getInputStream().transferTo(client.getOutputStream()), client, server);
      } catch (IOException e) {
        // The server is gone, or this line is: the next connection will see.
      }
    }
  }

  private interface Pump {
    void run() throws IOException;
  }

  private void run(Pump pump, Socket... both) {
    Thread thread =
        new Thread(
            () -> {
              try {
                pump.run();
              } catch (IOException e) {
                // One end is gone; so is the other, then.
              }
              for (Socket socket : both) {
                close(socket);
              }
            },
            "pump");
    thread.setDaemon(true);
    thread.start();
  }

  private static void close(Socket socket) {
    try {
      socket.close();
    } catch (IOException e) {
      // It is gone anyway.
    }
  }

  /** Passes packets on; one with the number 0 begins a command. */
  private void commands(Socket client, Socket server) throws IOException {
    DataInputStream in = new DataInputStream(client.getInputStream());
    OutputStream out = server.getOutputStream();
    boolean greeted = false;
    try {
      while (true) {
        byte[] head = new byte[4];
        in.readFully(head);
        int length = head[0] & 0xFF | (head[1] & 0xFF) << 8 | (head[2] & 0xFF) << 16;
        byte[] body = new byte[length];
        readAll(in, body);
        // The answers to a greeting have higher numbers.
        boolean command = head[3] == 0;
        greeted |= command;
        boolean here = command && greeted && note(body);
        if (here && !after) {
          breakOff();
        }
        out.write(head);
        out.write(body);
        out.flush();
        if (here) {
          breakOff();
        }
      }
    } catch (EOFException e) {
      close(client);
      close(server);
    }
  }

  private static void readAll(InputStream in, byte[] body) throws IOException {
    if (in.readNBytes(body, 0, body.length) < body.length) {
      throw new EOFException();
    }
  }

  private synchronized boolean note(byte[] body) {
    int kind = body.length == 0 ? 0 : body[0];
    boolean words = kind == 3 || kind == 0x16;
    seen.add(
        words
            ? new String(body, 1, Math.min(body.length - 1, 200), StandardCharsets.UTF_8)
            : "#" + kind);
    return seen.size() == at;
  }

  private void breakOff() throws IOException {
    Runnable also;
    synchronized (this) {
      also = fault;
    }
    also.run();
    List<Socket> all = List.copyOf(sockets);
    sockets.clear();
    all.forEach(FaultyLine::close);
    throw new IOException("broken off");
  }

  @Override
  public void close() throws IOException {
    listening.close();
    sockets.forEach(FaultyLine::close);
  }
}
