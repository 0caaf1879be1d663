package weftex.core.schema;

import java.util.Optional;

/**
 * How text is stored and compared.
 *
 * @param charset empty where it is that of what is around it, as with {@code collation}
 */
public record Collated(Optional<String> charset, Optional<String> collation) {
  /** As what is around it. */
  public static final Collated AS_AROUND = new Collated(Optional.empty(), Optional.empty());

  public Collated {
    charset.ifPresent(Shapes::word);
    collation.ifPresent(Shapes::word);
  }
}
