package weftex.core.change;

/**
 * The thing, as a person sees it, that a row is or belongs to.
 *
 * @param kind what it is, such as {@code page}
 * @param name what it is called; empty if nothing names it
 * @param part what the row is of it, such as {@code detail}; empty if the row is the thing itself
 */
public record Item(String kind, String name, String part) {

  /** In words: {@code page 'Fares'}, or {@code detail of page 'Fares'}. */
  public String words() {
    String thing = name.isEmpty() ? kind : kind + " '" + name + "'";
    return part.isEmpty() ? thing : part + " of " + thing;
  }
}
