package weftex.core.address;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;

/** The base address of a copy, around its host. */
final class UrlRule implements Rule {
  private static final byte[] HTTPS = {'h', 't', 't', 'p', 's'};
  private static final byte[] HTTP = {'h', 't', 't', 'p'};
  private static final byte[] WWW = {'w', 'w', 'w', '.'};
  private static final byte[] COLON = {':'};
  private static final byte[] SLASH = {'/'};
  private static final byte[] NONE = {};

  private final Address from;
  private final Address to;
  private final Twin fromTwin;
  private final Twin toTwin;
  private final boolean alone;
  private final HostSpelling spelling;
  private final Needle needle;

  /** Whether the host with {@code www.} before it is the same copy too. */
  record Twin(String bare, boolean known, boolean isWww) {
    static Twin of(Address address, boolean known) {
      boolean isWww = address.host().startsWith("www.");
      String bare = known && isWww ? address.host().substring(4) : address.host();
      return new Twin(bare, known, isWww);
    }
  }

  /**
   * @param fromTwin whether the source also answers with, or without, {@code www.}
   * @param toTwin the same of the target
   * @param alone whether a host that stands alone is mapped too
   */
  UrlRule(
      Address from,
      boolean fromTwin,
      Address to,
      boolean toTwin,
      boolean alone,
      HostSpelling spelling) {
    this.from = from;
    this.to = to;
    this.fromTwin = Twin.of(from, fromTwin);
    this.toTwin = Twin.of(to, toTwin);
    this.alone = alone;
    this.spelling = spelling;
    this.needle = new Needle(spelling.spell(this.fromTwin.bare()), true);
  }

  @Override
  public Needle needle() {
    return needle;
  }

  @Override
  public Optional<Hit> around(byte[] text, int at) {
    int host = at;
    boolean www = fromTwin.known() && Encoding.isAt(text, at - WWW.length, WWW);
    if (www) {
      host -= WWW.length;
    }
    int hostEnd = at + needle.length();
    for (Encoding encoding : Encoding.values()) {
      byte[] slash = encoding.slashBefore(text, host);
      byte[] second = slash.length == 0 ? slash : encoding.slashBefore(text, host - slash.length);
      if (second.length > 0) {
        return url(text, host, hostEnd, www, encoding, slash);
      }
    }
    return from.port() != 0 || !from.path().isEmpty()
        ? bare(text, host, hostEnd, www)
        : alone ? alone(text, host, hostEnd, www) : Optional.empty();
  }

  /** The address without scheme and slashes: its port or its path tells it from a mere host. */
  private Optional<Hit> bare(byte[] text, int host, int hostEnd, boolean www) {
    boolean grows =
        Signs.comesFromLeft(text, host) || host > 0 && "/@".indexOf(text[host - 1]) >= 0;
    for (Encoding encoding : grows ? new Encoding[0] : Encoding.values()) {
      byte[] colon = from.port() == 0 ? NONE : encoding.colonAt(text, hostEnd);
      int digits = from.port() == 0 ? 0 : String.valueOf(from.port()).length();
      byte[] slash = encoding.slashAt(text, hostEnd + colon.length + digits);
      int end = end(text, hostEnd, encoding, slash);
      boolean whole = from.path().isEmpty() || slash.length > 0;
      if (whole && end >= 0) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(hostLike(text, host, hostEnd, www));
        writePlace(out, colon.length > 0 ? colon : COLON, slash.length > 0 ? slash : SLASH);
        return Optional.of(new Hit(host, end, Form.HOST, out.toByteArray()));
      }
    }
    return Optional.empty();
  }

  /** The port and the path of the target. */
  private void writePlace(ByteArrayOutputStream out, byte[] colon, byte[] slash) {
    if (to.port() != 0) {
      out.writeBytes(colon);
      out.writeBytes(UrlText.ascii(String.valueOf(to.port())));
    }
    for (String segment : UrlText.segments(to.path())) {
      out.writeBytes(slash);
      out.writeBytes(segment.getBytes(StandardCharsets.UTF_8));
    }
  }

  private Optional<Hit> url(
      byte[] text, int host, int hostEnd, boolean www, Encoding encoding, byte[] slash) {
    int slashes = host - 2 * slash.length;
    byte[] colon = encoding.colonBefore(text, slashes);
    int start = slashes;
    String scheme = "";
    if (colon.length > 0) {
      int end = slashes - colon.length;
      byte[] name = Encoding.isAt(text, end - 5, HTTPS) ? HTTPS : HTTP;
      start = end - name.length;
      if (!Encoding.isAt(text, start, name)) {
        return Optional.empty();
      }
      scheme = new String(name, StandardCharsets.US_ASCII);
    }
    boolean grows =
        Signs.comesFromLeft(text, start)
            || scheme.isEmpty() && start > 0 && (text[start - 1] == '/' || text[start - 1] == ':');
    int end = grows ? -1 : end(text, hostEnd, encoding, slash);
    if (end < 0) {
      return Optional.empty();
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    if (!scheme.isEmpty()) {
      out.writeBytes(UrlText.ascii(to.scheme()));
      out.writeBytes(text(text, start + scheme.length(), slashes));
    }
    out.writeBytes(text(text, slashes, host));
    out.writeBytes(hostLike(text, host, hostEnd, www));
    byte[] sign = encoding.colonAt(text, hostEnd);
    writePlace(
        out,
        sign.length > 0 ? sign : colon.length > 0 ? colon : COLON,
        text(text, host - slash.length, host));
    return Optional.of(new Hit(start, end, form(encoding, scheme), out.toByteArray()));
  }

  private Form form(Encoding encoding, String scheme) {
    if (encoding != Encoding.PLAIN) {
      return encoding.form();
    }
    if (scheme.isEmpty()) {
      return Form.NO_SCHEME;
    }
    return scheme.equals(from.scheme()) ? Form.PLAIN : Form.OTHER_SCHEME;
  }

  /** Where the address ends; -1 if what stands there is a longer host, port or path. */
  private int end(byte[] text, int hostEnd, Encoding encoding, byte[] slash) {
    if (Signs.goesOn(text, hostEnd) || hostEnd < text.length && text[hostEnd] == '@') {
      return -1;
    }
    int end = hostEnd;
    byte[] colon = encoding.colonAt(text, hostEnd);
    int digits = hostEnd + colon.length;
    boolean hasPort = colon.length > 0 && digits < text.length && Character.isDigit(text[digits]);
    if (from.port() == 0 && hasPort) {
      return -1;
    }
    if (from.port() != 0) {
      byte[] port = UrlText.ascii(String.valueOf(from.port()));
      end = digits + port.length;
      boolean isIt = hasPort && Encoding.isAt(text, digits, port);
      if (!isIt || Signs.goesOn(text, end)) {
        return -1;
      }
    }
    for (String segment : UrlText.segments(from.path())) {
      byte[] name = segment.getBytes(StandardCharsets.UTF_8);
      int at = end + slash.length;
      boolean isIt =
          Encoding.isAt(text, end, slash)
              && at + name.length <= text.length
              && java.util.Arrays.equals(text, at, at + name.length, name, 0, name.length);
      if (!isIt || Signs.goesOn(text, at + name.length)) {
        return -1;
      }
      end = at + name.length;
    }
    return end;
  }

  private Optional<Hit> alone(byte[] text, int host, int hostEnd, boolean www) {
    boolean grows =
        Signs.comesFromLeft(text, host)
            || Signs.goesOn(text, hostEnd)
            || host > 0 && text[host - 1] == '/';
    return grows
        ? Optional.empty()
        : Optional.of(new Hit(host, hostEnd, Form.HOST, hostLike(text, host, hostEnd, www)));
  }

  /** The target's host in the spelling and the case of the one that was found. */
  private byte[] hostLike(byte[] text, int host, int hostEnd, boolean www) {
    boolean withWww = toTwin.known() ? www : toTwin.isWww();
    boolean twinOfNone = www && !toTwin.known() && !toTwin.isWww();
    String name = (withWww && !twinOfNone ? "www." : "") + bareOf(toTwin, to);
    boolean upper = false;
    boolean lower = false;
    for (int i = host; i < hostEnd; i++) {
      upper |= text[i] >= 'A' && text[i] <= 'Z';
      lower |= text[i] >= 'a' && text[i] <= 'z';
    }
    if (spelling == HostSpelling.PERCENT) {
      return upper ? UrlText.upperHex(spelling.spell(name)) : spelling.spell(name);
    }
    return upper && !lower ? spelling.spell(name.toUpperCase(Locale.ROOT)) : spelling.spell(name);
  }

  private static String bareOf(Twin twin, Address address) {
    return twin.isWww() ? address.host().substring(4) : twin.bare();
  }

  private static byte[] text(byte[] text, int from, int to) {
    return java.util.Arrays.copyOfRange(text, from, to);
  }
}
