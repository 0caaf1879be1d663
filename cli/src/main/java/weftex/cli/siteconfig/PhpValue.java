package weftex.cli.siteconfig;

import java.util.Map;

/**
 * What an expression of a PHP config file stands for, as far as it can be read without running it.
 */
sealed interface PhpValue {

  /**
   * A string or a number.
   *
   * @param reserve what may be otherwise where the site runs, as a sentence; empty for nothing
   */
  record Text(String text, String reserve) implements PhpValue {
    Text(String text) {
      this(text, "");
    }

    Text with(String reserve) {
      return new Text(text, this.reserve.isEmpty() ? reserve : this.reserve);
    }
  }

  /** An array, by its keys in the order of the file. */
  record Items(Map<String, PhpValue> items) implements PhpValue {}

  record Truth(boolean is) implements PhpValue {}

  /** A variable of the environment that is not set here; where the site runs, it may be. */
  record Unset(String variable) implements PhpValue {}

  /**
   * What only a run could tell.
   *
   * @param why as the end of a sentence that begins with its name, such as {@code is computed in
   *     line 7}
   */
  record Unknown(String why) implements PhpValue {}
}
