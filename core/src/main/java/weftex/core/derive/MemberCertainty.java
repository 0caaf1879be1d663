package weftex.core.derive;

/** How sure a guess is. */
enum MemberCertainty {
  CERTAIN,
  LIKELY,
  POSSIBLE;

  String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }
}
