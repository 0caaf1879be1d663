package weftex.core.address;

import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Stream;
import weftex.core.row.Value;
import weftex.core.value.Format;
import weftex.core.value.Place;
import weftex.core.value.Rewriting;
import weftex.core.value.Structure;
import weftex.core.value.Weaver;

/**
 * Maps the addresses of one copy to those of the other, in every form and at any depth. Mapping
 * there and back gives what was there before, unless a text has the other copy's address already,
 * or mixes upper and lower case within a host.
 */
public final class AddressMap {
  /** Maps nothing. */
  public static final AddressMap NONE = new AddressMap(List.of());

  private final List<Rule> rules;

  private AddressMap(List<Rule> rules) {
    this.rules = List.copyOf(rules);
  }

  /** A text of one copy and the text that takes its place on the other. */
  public record Pair(String from, String to) {}

  /**
   * Makes a map.
   *
   * @param pairs extra replacements; they go before the addresses, in this order
   * @param hostsAlone whether a host that stands alone, as in an e-mail address, is mapped too
   * @throws IllegalArgumentException with a sentence, if a pair can't be looked for
   */
  public static AddressMap of(
      CopyAddress from, CopyAddress to, List<Pair> pairs, boolean hostsAlone) {
    return of(new Bases(from, to), List.of(), pairs, hostsAlone);
  }

  /**
   * What is known of one site's addresses on two copies.
   *
   * @param from where values come from
   * @param to where they go
   */
  public record Bases(CopyAddress from, CopyAddress to) {
    private boolean areMapped() {
      return from.base().isPresent()
          && to.base().isPresent()
          && !from.base().get().equals(to.base().get());
    }

    private int length() {
      return from.base().get().toString().length();
    }

    private List<Rule> rules(boolean hostsAlone) {
      return HostSpelling.of(from.base().get().host()).stream()
          .<Rule>map(
              spelling ->
                  new UrlRule(
                      from.base().get(),
                      from.twin(),
                      to.base().get(),
                      to.twin(),
                      hostsAlone,
                      spelling))
          .toList();
    }
  }

  /** The same of a site under one roof with others. */
  static AddressMap of(Bases own, List<Bases> others, List<Pair> pairs, boolean hostsAlone) {
    CopyAddress from = own.from();
    CopyAddress to = own.to();
    List<Rule> rules = new ArrayList<>();
    for (Pair pair : pairs) {
      rules.add(new TextRule(pair.from(), pair.to(), Form.PAIR));
    }
    // An address may begin like another; the longer one is meant then.
    Stream.concat(Stream.of(own), others.stream())
        .filter(Bases::areMapped)
        .sorted(Comparator.comparingInt(Bases::length).reversed())
        .forEach(site -> rules.addAll(site.rules(hostsAlone && site == own)));
    if (from.folder().isPresent()
        && to.folder().isPresent()
        && !from.folder().equals(to.folder())) {
      rules.add(new TextRule(from.folder().get(), to.folder().get(), Form.FOLDER));
    }
    if (from.base().isPresent() && to.base().isPresent()) {
      String here = from.base().get().path();
      String there = to.base().get().path();
      if (here.isEmpty() && !there.isEmpty()) {
        rules.addAll(RootRule.of(there));
      } else if (!here.equals(there)) {
        rules.add(new PathRule(here, there));
      }
    }
    return new AddressMap(rules);
  }

  /** Whether it maps nothing at all. */
  public boolean isNothing() {
    return rules.isEmpty();
  }

  /** Whether a stretch of bytes may hold an address; most don't. */
  public boolean mayTouch(byte[] bytes, int from, int to) {
    for (Rule rule : rules) {
      if (rule.needle().find(bytes, from, to) >= 0) {
        return true;
      }
    }
    return false;
  }

  /**
   * Maps a value.
   *
   * @param format how it is written
   * @param hits is told the form of each address
   * @return the very same value if nothing changes
   */
  public Value map(Value value, Format format, Consumer<Form> hits) {
    byte[] bytes =
        value instanceof Value.Text text
            ? text.utf8()
            : value instanceof Value.Binary binary ? binary.bytes() : new byte[0];
    if (bytes.length == 0 || value instanceof Value.Binary && !isText(bytes)) {
      return value;
    }
    return Rewriting.rewrite(bytes, format, visitor(hits))
        .map(woven -> woven.toValue(value))
        .orElse(value);
  }

  /** Bytes with a zero in them are a picture or an archive, unless they are a serialised object. */
  private static boolean isText(byte[] bytes) {
    for (byte b : bytes) {
      if (b == 0) {
        return Structure.detect(bytes).isPresent();
      }
    }
    return true;
  }

  private Rewriting.Visitor visitor(Consumer<Form> hits) {
    return new Rewriting.Visitor() {
      @Override
      public boolean mayTouch(byte[] bytes) {
        return AddressMap.this.mayTouch(bytes, 0, bytes.length);
      }

      @Override
      public Optional<Weaver> text(Place place, byte[] text) {
        return mapText(text, hits).map(Weaver::of);
      }
    };
  }

  /** Maps a text that is not structured; empty if nothing changes. */
  Optional<byte[]> mapText(byte[] text, Consumer<Form> forms) {
    List<Hit> hits = new ArrayList<>();
    for (Rule rule : rules) {
      int at = rule.needle().find(text, 0, text.length);
      while (at >= 0) {
        Optional<Hit> hit = rule.around(text, at);
        hit.filter(found -> isFree(hits, found)).ifPresent(hits::add);
        at = rule.needle().find(text, at + 1, text.length);
      }
    }
    if (hits.isEmpty()) {
      return Optional.empty();
    }
    hits.sort(Comparator.comparingInt(Hit::from));
    ByteArrayOutputStream out = new ByteArrayOutputStream(text.length + 64);
    int at = 0;
    for (Hit hit : hits) {
      out.write(text, at, hit.from() - at);
      out.writeBytes(hit.replacement());
      at = hit.to();
      forms.accept(hit.form());
    }
    out.write(text, at, text.length - at);
    return Optional.of(out.toByteArray());
  }

  /** Hits of one rule come in order, so the last ones are the likely neighbours. */
  private static boolean isFree(List<Hit> hits, Hit found) {
    for (int i = hits.size() - 1; i >= 0; i--) {
      if (found.from() < hits.get(i).to() && hits.get(i).from() < found.to()) {
        return false;
      }
    }
    return true;
  }
}
