package weftex.core.value;

import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;

/**
 * Changes texts and numbers inside a value of any format, at any depth, and leaves every byte as it
 * is that nobody asked to change. Lengths of serialised texts follow. What is not well-formed is a
 * plain text here.
 */
public final class Rewriting {
  /** A value within a value within a value; deeper ones are plain text. */
  private static final int MOST_NESTED = 8;

  private final Visitor visitor;

  private Rewriting(Visitor visitor) {
    this.visitor = visitor;
  }

  /** Says what becomes of the pieces. */
  public interface Visitor {
    /** Whether anything in these bytes may change, so that the rest need not be read. */
    boolean mayTouch(byte[] bytes);

    /**
     * A text that is not structured itself.
     *
     * @param text as it is written; inside of a JSON string, with its escapes
     * @return what takes its place; empty to leave it
     */
    Optional<Weaver> text(Place place, byte[] text);

    /**
     * A whole number that is written as one, not as a text.
     *
     * @return what takes the place of its digits; empty to leave it
     */
    default Optional<Weaver> number(Place place, byte[] digits) {
      return Optional.empty();
    }

    /** A value that claims to be serialised and is not well-formed; it is left as it is. */
    default void malformed(int offset, String what) {}
  }

  /** A stretch of bytes that is replaced. */
  private record Edit(int from, int to, Weaver by) {}

  /** Rewrites a value of any format; empty if nothing changes. */
  public static Optional<Weaver> rewrite(byte[] bytes, Visitor visitor) {
    return rewrite(bytes, Format.AUTO, visitor);
  }

  /** Rewrites a value; empty if nothing changes. */
  public static Optional<Weaver> rewrite(byte[] bytes, Format format, Visitor visitor) {
    Rewriting rewriting = new Rewriting(visitor);
    return switch (format) {
      case AUTO -> rewriting.any(Place.WHOLE, bytes, 0);
      case TEXT -> visitor.mayTouch(bytes) ? visitor.text(Place.WHOLE, bytes) : Optional.empty();
      case SERIALIZED -> rewriting.declared(Syntax.SERIALIZED, bytes);
      case JSON -> rewriting.declared(Syntax.JSON, bytes);
      case BASE64 -> rewriting.encoded(bytes);
    };
  }

  private Optional<Weaver> declared(Syntax syntax, byte[] bytes) {
    if (bytes.length == 0 || !visitor.mayTouch(bytes)) {
      return Optional.empty();
    }
    try {
      return structured(Place.WHOLE, Structure.read(syntax, bytes), 1);
    } catch (MalformedValue e) {
      visitor.malformed(e.offset(), e.getMessage());
      return Optional.empty();
    }
  }

  private Optional<Weaver> encoded(byte[] bytes) {
    byte[] inside;
    try {
      inside = Base64.getDecoder().decode(bytes);
    } catch (IllegalArgumentException e) {
      visitor.malformed(0, "it is not Base64");
      return Optional.empty();
    }
    return any(Place.WHOLE, inside, 0).map(by -> new Weaver().addBase64(by));
  }

  private Optional<Weaver> any(Place place, byte[] bytes, int nested) {
    if (!visitor.mayTouch(bytes)) {
      return Optional.empty();
    }
    Optional<Structure> structure =
        nested < MOST_NESTED ? Structure.detect(bytes) : Optional.empty();
    if (structure.isPresent()) {
      return structured(place, structure.get(), nested + 1);
    }
    Optional<MalformedValue> malformed = Structure.malformed(bytes);
    if (malformed.isPresent()) {
      visitor.malformed(malformed.get().offset(), malformed.get().getMessage());
      return Optional.empty();
    }
    return visitor.text(place, bytes);
  }

  private Optional<Weaver> structured(Place place, Structure structure, int nested) {
    List<Edit> edits = new ArrayList<>();
    node(place, structure, structure.root(), nested, edits);
    if (edits.isEmpty()) {
      return Optional.empty();
    }
    Weaver woven = new Weaver();
    int at = 0;
    for (Edit edit : edits) {
      woven.add(structure.bytes(), at, edit.from()).add(edit.by());
      at = edit.to();
    }
    return Optional.of(woven.add(structure.bytes(), at, structure.bytes().length));
  }

  private void node(Place place, Structure in, Node node, int nested, List<Edit> edits) {
    switch (node.kind()) {
      case TEXT -> text(place, in, node, nested, edits);
      case WHOLE -> {
        Optional<Weaver> by = visitor.number(place, in.content(node));
        if (by.isPresent()) {
          edits.add(new Edit(node.contentFrom(), node.contentTo(), by.get()));
        }
      }
      case MAP, LIST, OBJECT -> {
        for (int i = 0; i < node.values().size(); i++) {
          if (node.kind() != Node.Kind.LIST) {
            node(place.member(in, node, i, true), in, node.keys().get(i), nested, edits);
          }
          node(place.member(in, node, i, false), in, node.values().get(i), nested, edits);
        }
      }
      case SCALAR, OPAQUE -> {}
    }
  }

  private void text(Place place, Structure in, Node node, int nested, List<Edit> edits) {
    if (in.syntax() == Syntax.SERIALIZED) {
      Optional<Weaver> by = any(place, in.content(node), nested);
      if (by.isPresent()) {
        edits.add(new Edit(node.from() + 2, node.to() - 1, new Weaver().addSized(by.get())));
      }
      return;
    }
    byte[] written = java.util.Arrays.copyOfRange(in.bytes(), node.contentFrom(), node.contentTo());
    if (!visitor.mayTouch(written)) {
      return;
    }
    JsonText text = JsonText.read(in.bytes(), node.contentFrom(), node.contentTo());
    Optional<MalformedValue> malformed = Structure.malformed(text.text());
    if (malformed.isPresent()) {
      visitor.malformed(malformed.get().offset(), malformed.get().getMessage());
      return;
    }
    boolean structured = nested < MOST_NESTED && Structure.looksLike(text.text()).isPresent();
    Optional<Structure> inner = structured ? Structure.detect(text.text()) : Optional.empty();
    Optional<Weaver> by;
    if (inner.isPresent()) {
      // Spelt in a way that can't be given back, it stays as it is.
      by =
          text.exact()
              ? structured(place, inner.get(), nested + 1)
                  .map(changed -> new Weaver().addQuoted(changed, text))
              : Optional.empty();
    } else {
      by = visitor.text(place, written);
    }
    if (by.isPresent()) {
      edits.add(new Edit(node.contentFrom(), node.contentTo(), by.get()));
    }
  }
}
