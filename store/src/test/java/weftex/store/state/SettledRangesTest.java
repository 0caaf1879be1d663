package weftex.store.state;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.compare.KnownRanges.Digests;
import weftex.core.row.Column;
import weftex.core.row.Table;
import weftex.core.row.ValueKind;

/** What comparisons found is kept under its terms, and forgotten with them. */
class SettledRangesTest {
  private static final Digests FOUND = new Digests(3, 10, Long.MIN_VALUE, 11, -7);

  @TempDir Path folder;

  private static Table table(String... columns) {
    List<Column> shapes =
        List.of(columns).stream()
            .map(name -> new Column(name, ValueKind.TEXT, "text", 0, false, false, false))
            .toList();
    return new Table("posts", shapes, List.of(0), 0, List.of(), List.of());
  }

  private Path file() {
    return folder.resolve("settled/into-live.json");
  }

  private SettledRanges open(String terms) {
    return SettledRanges.open(file(), terms);
  }

  private void found() {
    SettledRanges ranges = open("these");
    ranges.alike(table("id", "title"), 64, FOUND);
    ranges.save();
  }

  @Test
  void whatWasFoundIsKnownNextTime() {
    found();
    assertThat(open("these").isAlike(table("id", "title"), 64, FOUND)).isTrue();
    assertThat(open("these").isAlike(table("id", "title"), 64, new Digests(3, 10, 1, 11, -7)))
        .isFalse();
  }

  @Test
  void otherTermsColumnsAndWidthsKnowNothing() {
    found();
    assertThat(open("others").isAlike(table("id", "title"), 64, FOUND)).isFalse();
    assertThat(open("these").isAlike(table("id", "title", "body"), 64, FOUND)).isFalse();
    assertThat(open("these").isAlike(table("id", "title"), 128, FOUND)).isFalse();
  }

  @Test
  void whatIsNotFoundAgainIsForgotten() {
    found();
    SettledRanges later = open("these");
    Digests other = new Digests(4, 1, 2, 1, 2);
    later.alike(table("id", "title"), 64, other);
    later.save();
    assertThat(open("these").isAlike(table("id", "title"), 64, FOUND)).isFalse();
    assertThat(open("these").isAlike(table("id", "title"), 64, other)).isTrue();
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "{", "[]", "{\"format\":2,\"terms\":\"these\"}", "{\"format\":1}"})
  void aDamagedFileOrOneOfAnotherFormatKnowsNothing(String text) throws Exception {
    found();
    Files.writeString(file(), text);
    assertThat(open("these").isAlike(table("id", "title"), 64, FOUND)).isFalse();
    found();
    assertThat(open("these").isAlike(table("id", "title"), 64, FOUND)).isTrue();
  }

  @Test
  void whereItCanNotBeKeptNothingIsLostButTime() throws Exception {
    Files.writeString(folder.resolve("settled"), "no folder");
    found();
    assertThat(open("these").isAlike(table("id", "title"), 64, FOUND)).isFalse();
  }
}
