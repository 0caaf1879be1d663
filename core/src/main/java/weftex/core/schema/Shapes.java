package weftex.core.schema;

import java.util.regex.Pattern;

/** What names and words of shapes may be. */
final class Shapes {
  private static final int LONGEST_NAME = 128;
  private static final Pattern WORD = Pattern.compile("[A-Za-z0-9_]{1,64}");

  private Shapes() {}

  /** A name that a database can quote. */
  static String name(String name) {
    if (name.isEmpty()
        || name.length() > LONGEST_NAME
        || name.chars().anyMatch(Character::isISOControl)) {
      throw new IllegalArgumentException("a table, column or index has an odd name");
    }
    return name;
  }

  /** A word that stands in a statement as it is, such as the name of a character set. */
  static String word(String word) {
    if (!WORD.matcher(word).matches()) {
      throw new IllegalArgumentException("'" + word + "' is no name of a collation or engine");
    }
    return word;
  }
}
