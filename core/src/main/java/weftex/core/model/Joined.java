package weftex.core.model;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BinaryOperator;
import java.util.stream.Stream;

/** What two rules say together; a rule that says nothing has null. */
final class Joined {
  private Joined() {}

  static <T> List<T> given(List<T> said) {
    return said == null ? List.of() : List.copyOf(said);
  }

  static <T> Map<String, T> given(Map<String, T> said) {
    return said == null ? Map.of() : Map.copyOf(said);
  }

  static String given(String said) {
    return said == null ? "" : said;
  }

  static <T> List<T> lists(List<T> one, List<T> other) {
    return Stream.concat(one.stream(), other.stream()).distinct().toList();
  }

  /** Where both have a key, {@code where} says what counts. */
  static <T> Map<String, T> maps(
      Map<String, T> one, Map<String, T> other, BinaryOperator<T> where) {
    Map<String, T> all = new LinkedHashMap<>(one);
    new HashMap<>(other).forEach((key, value) -> all.merge(key, value, where));
    return all;
  }

  /** The same; where both have a key, the other's counts. */
  static <T> Map<String, T> maps(Map<String, T> one, Map<String, T> other) {
    return maps(one, other, (value, newer) -> newer);
  }
}
