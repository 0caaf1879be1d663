package weftex.cli.siteconfig;

import java.util.HashMap;
import java.util.Map;

/** What has been read until now, over all files. */
final class PhpKnown {
  final Map<String, PhpValue> constants = new HashMap<>();
  final Map<String, PhpValue> variables = new HashMap<>();
  final Map<String, String> environment;
  int files;

  PhpKnown(Map<String, String> environment) {
    this.environment = environment;
  }
}
