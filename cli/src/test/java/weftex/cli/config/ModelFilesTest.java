package weftex.cli.config;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.model.Role;
import weftex.core.model.SiteModel;
import weftex.core.yaml.YamlProblem;
import weftex.demo.DemoSite;

class ModelFilesTest {
  private static final YAMLMapper YAML = new YAMLMapper();

  @TempDir Path folder;
  private JsonSchema schema;

  @BeforeEach
  void readTheSchema() throws Exception {
    schema =
        JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
            .getSchema(Files.readString(Path.of("..", "docs", "site-model.schema.json")));
  }

  private void write(String name, String text) throws Exception {
    Files.writeString(folder.resolve(name), text);
  }

  @Test
  void aModelExtendsAFileThatExtendsABuiltInOne() throws Exception {
    write("shop.model.yaml", "model: shop\nextends: wordpress\ntables: {orders: {role: live}}\n");
    write(
        "mine.model.yaml",
        "model: mine\nextends: shop.model.yaml\ntables: {orders: {word: order}, tags: {}}\n");
    SiteModel model = ModelFiles.find(folder, "mine.model.yaml").orElseThrow();
    assertThat(model.model()).isEqualTo("mine");
    assertThat(model.rule("orders").ownership().roleOrContent()).isEqualTo(Role.LIVE);
    assertThat(model.rule("orders").part().word()).isEqualTo("order");
    assertThat(model.tables()).containsKeys("posts", "tags");
    SiteModel parent = ModelFiles.parent(model, folder).orElseThrow();
    assertThat(parent.model()).isEqualTo("shop");
    assertThat(ModelFiles.find(folder, "none.yaml")).isEmpty();
  }

  @Test
  void aCircleOrAStrangerIsSaidInASentence() throws Exception {
    write("a.yaml", "model: a\nextends: b.yaml\n");
    write("b.yaml", "model: b\nextends: a.yaml\n");
    assertThatThrownBy(() -> ModelFiles.find(folder, "a.yaml"))
        .isInstanceOf(YamlProblem.class)
        .hasMessageContaining("it extends 'a.yaml', which extends it in turn");
    write("c.yaml", "model: c\nextends: wordpres\n");
    assertThatThrownBy(() -> ModelFiles.find(folder, "c.yaml"))
        .isInstanceOf(YamlProblem.class)
        .hasMessageContaining("neither built in nor a file beside it");
  }

  @ParameterizedTest
  @ValueSource(strings = {"wordpress", "wordpress-extensions"})
  void builtInModelsFollowTheDocumentedSchema(String name) throws Exception {
    try (InputStream in = SiteModel.class.getResourceAsStream("/weftex/models/" + name + ".yaml")) {
      assertThat(schema.validate(YAML.readTree(in))).isEmpty();
    }
  }

  @Test
  void theDemosModelsFollowIt() throws Exception {
    new DemoSite(folder).build();
    for (String name : new String[] {DemoSite.MODEL, DemoSite.EXTENDED_MODEL}) {
      JsonNode model = YAML.readTree(folder.resolve(name).toFile());
      assertThat(schema.validate(model)).as(name).isEmpty();
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "tables: {}",
        "{model: a, tables: {pages: {rolle: live}}}",
        "{model: a, tables: {pages: {role: mine}}}",
        "{model: a, markup: [{path: a, css-class: b, to: pages}]}",
        "{model: a, markup: [{block: image, to: pages}]}",
        "{model: a, tables: {pages: {item: {name: [a]}}}}",
        "{model: a, tables: {pages: {counters: {n: {of: links}}}}}"
      })
  void whatTheProgramRefusesTheSchemaRefusesToo(String yaml) throws Exception {
    assertThatThrownBy(() -> SiteModel.read(yaml)).isInstanceOf(YamlProblem.class);
    assertThat(schema.validate(YAML.readTree(yaml))).isNotEmpty();
  }
}
