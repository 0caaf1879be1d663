package weftex.core.yaml;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.MapperFeature;
import com.fasterxml.jackson.databind.PropertyNamingStrategies;
import com.fasterxml.jackson.databind.cfg.CoercionAction;
import com.fasterxml.jackson.databind.cfg.CoercionInputShape;
import com.fasterxml.jackson.databind.exc.MismatchedInputException;
import com.fasterxml.jackson.databind.exc.UnrecognizedPropertyException;
import com.fasterxml.jackson.databind.type.LogicalType;
import com.fasterxml.jackson.dataformat.yaml.YAMLMapper;
import com.fasterxml.jackson.dataformat.yaml.YAMLParser;
import java.io.IOException;
import java.util.List;
import java.util.stream.Collectors;

/** Reads YAML into records: keys in kebab-case, nothing unknown, nothing twice, nothing coerced. */
public final class StrictYaml {
  private static final YAMLMapper MAPPER =
      YAMLMapper.builder()
          .propertyNamingStrategy(PropertyNamingStrategies.KEBAB_CASE)
          .enable(JsonParser.Feature.STRICT_DUPLICATE_DETECTION)
          .enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)
          .enable(DeserializationFeature.ACCEPT_SINGLE_VALUE_AS_ARRAY)
          .withCoercionConfig(
              LogicalType.Integer,
              config -> config.setCoercion(CoercionInputShape.String, CoercionAction.Fail))
          .build();

  private StrictYaml() {}

  /**
   * Reads a whole text.
   *
   * @param text the YAML; an empty one is a problem
   * @param type a record whose components are the known keys
   * @throws YamlProblem at the first thing that is wrong
   */
  public static <T> T read(String text, Class<T> type) throws YamlProblem {
    int tab = lineThatBeginsWithTab(text);
    if (tab > 0) {
      throw new YamlProblem(tab, "a tab can't indent YAML: use spaces", "");
    }
    if (text.lines().allMatch(line -> line.isBlank() || line.strip().startsWith("#"))) {
      throw new YamlProblem(0, "the file is empty", "");
    }
    checkAliases(text);
    try {
      return MAPPER.readValue(text, type);
    } catch (UnrecognizedPropertyException e) {
      List<String> known = e.getKnownPropertyIds().stream().map(String::valueOf).toList();
      throw new YamlProblem(
          lineOf(e.getPropertyName(), line(e), text),
          "unknown key '" + e.getPropertyName() + "'" + under(e, 1),
          Nearest.to(e.getPropertyName(), known).orElse(""));
    } catch (MismatchedInputException e) {
      throw new YamlProblem(line(e), "wrong kind of value" + under(e, 0) + ": " + wanted(e), "");
    } catch (JsonMappingException e) {
      String cause = e.getCause() != null ? e.getCause().getMessage() : firstLine(e);
      throw new YamlProblem(line(e), cause + under(e, 0), "");
    } catch (JsonProcessingException e) {
      throw new YamlProblem(line(e), firstLine(e), "");
    }
  }

  /** An alias would be read as a text that happens to be the anchor's name. */
  private static void checkAliases(String text) throws YamlProblem {
    if (text.indexOf('*') < 0 && text.indexOf('&') < 0) {
      return;
    }
    try (YAMLParser parser = MAPPER.getFactory().createParser(text)) {
      while (parser.nextToken() != null) {
        if (parser.isCurrentAlias()) {
          throw new YamlProblem(
              parser.currentTokenLocation().getLineNr(),
              "the alias '*"
                  + parser.getText()
                  + "' is not followed: write the value out, or put it in quotes if it is a pattern",
              "");
        }
      }
    } catch (IOException e) {
      // Whoever reads the text can tell better what is wrong with it.
    }
  }

  private static int lineThatBeginsWithTab(String text) {
    List<String> lines = text.lines().toList();
    for (int i = 0; i < lines.size(); i++) {
      if (lines.get(i).matches("^ *\\t.*")) {
        return i + 1;
      }
    }
    return 0;
  }

  /** The parser has read on when it reports a key, at times into the next line. */
  private static int lineOf(String key, int reported, String text) {
    List<String> lines = text.lines().toList();
    for (int i = Math.min(reported, lines.size()); i > 0; i--) {
      if (lines.get(i - 1).contains(key)) {
        return i;
      }
    }
    return reported;
  }

  private static int line(JsonProcessingException e) {
    JsonLocation location = e.getLocation();
    return location == null ? 0 : location.getLineNr();
  }

  private static String under(JsonMappingException e, int leaveOut) {
    String path =
        e.getPath().stream()
            .limit(Math.max(0, e.getPath().size() - leaveOut))
            .map(step -> step.getFieldName() == null ? "" + step.getIndex() : step.getFieldName())
            .collect(Collectors.joining("."));
    return path.isEmpty() ? "" : " at '" + path + "'";
  }

  private static String wanted(MismatchedInputException e) {
    Class<?> target = e.getTargetType();
    if (target != null && target.isEnum()) {
      return "one of "
          + java.util.Arrays.stream(target.getEnumConstants())
              .map(constant -> constant.toString().toLowerCase(java.util.Locale.ROOT))
              .collect(Collectors.joining(", "));
    }
    if (target == null) {
      return firstLine(e);
    }
    if (target == String.class) {
      return "a text is needed";
    }
    if (Number.class.isAssignableFrom(target) || target.isPrimitive()) {
      return target == boolean.class ? "true or false is needed" : "a whole number is needed";
    }
    return List.class.isAssignableFrom(target) ? "a list is needed" : "keys with values are needed";
  }

  private static String firstLine(JsonProcessingException e) {
    return e.getOriginalMessage().lines().findFirst().orElse("not YAML");
  }
}
