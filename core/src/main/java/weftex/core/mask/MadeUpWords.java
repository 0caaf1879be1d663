package weftex.core.mask;

import java.math.BigInteger;
import java.util.Locale;

/** Words that nobody means, made of bits. */
final class MadeUpWords {

  private static final int PROSE = 60;
  private static final int GIVEN_SYLLABLES = 4;
  private static final int SYLLABLE_BITS = 6;
  private static final int WORDS_OF_PROSE = 12;
  private static final String CONSONANTS = "bdfghjklmnprstvz";
  private static final String VOWELS = "aeio";

  /** As many words as there were, up to a few lines of prose; a single one for a login. */
  String words(String real, BigInteger bits) {
    String[] words = real.strip().split("\\s+");
    boolean lower = real.equals(real.toLowerCase(Locale.ROOT));
    if (words.length == 1 && real.length() < PROSE) {
      String one = syllables(bits, MadeUp.SYLLABLES);
      return lower ? one : capital(one);
    }
    if (words.length <= 4 && real.length() < PROSE) {
      String given = syllables(bits, GIVEN_SYLLABLES);
      BigInteger rest = bits.shiftRight(GIVEN_SYLLABLES * SYLLABLE_BITS);
      String family = syllables(rest, MadeUp.SYLLABLES - GIVEN_SYLLABLES);
      return lower ? given + " " + family : capital(given) + " " + capital(family);
    }
    StringBuilder prose = new StringBuilder(capital(syllables(bits, 2)));
    for (int i = 1; i < Math.min(words.length, WORDS_OF_PROSE); i++) {
      prose.append(' ').append(syllables(bits.shiftRight(i * 2 * SYLLABLE_BITS), 2));
    }
    return prose.append('.').toString();
  }

  static String syllables(BigInteger bits, int count) {
    StringBuilder word = new StringBuilder();
    for (int i = 0; i < count; i++) {
      int six = bits.shiftRight(i * SYLLABLE_BITS).intValue() & 0x3f;
      word.append(CONSONANTS.charAt(six >>> 2)).append(VOWELS.charAt(six & 3));
    }
    return word.toString();
  }

  static String capital(String word) {
    return word.substring(0, 1).toUpperCase(Locale.ROOT) + word.substring(1);
  }
}
