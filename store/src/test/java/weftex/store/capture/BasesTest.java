package weftex.store.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import weftex.core.row.RowStream;
import weftex.store.seal.AtRest;

class BasesTest {
  @TempDir Path folder;

  private Bases marked(String... times) throws Exception {
    Bases bases = new Bases(folder, AtRest.CLEAR);
    for (String time : times) {
      new CaptureWriter("skerrow", "live", "here", "test", AtRest.CLEAR)
          .write(bases.candidate(), List.of(), table -> RowStream.EMPTY, at(time), rows -> {});
      bases.accept(Map.of());
    }
    return bases;
  }

  private static String at(String time) {
    return "2026-11-25T" + time + ":00Z";
  }

  private String current() throws Exception {
    return new Bases(folder, AtRest.CLEAR).open("skerrow").marked();
  }

  @Test
  void theOnesBeforeAreKept() throws Exception {
    assertThat(new Bases(folder, AtRest.CLEAR).isRecorded()).isFalse();
    Bases bases = marked("10:00", "11:00", "12:00");
    assertThat(current()).isEqualTo(at("12:00"));
    assertThat(bases.earlier())
        .containsExactly(
            new Bases.Earlier(1, 1, "live", at("10:00")),
            new Bases.Earlier(2, 2, "live", at("11:00")));
  }

  @Test
  void backGoesToTheOneBeforeAndLosesNone() throws Exception {
    Bases bases = marked("10:00", "11:00", "12:00");
    bases.back();
    assertThat(current()).isEqualTo(at("11:00"));
    bases.back();
    assertThat(current()).isEqualTo(at("10:00"));
    assertThat(bases.back()).isEmpty();
    assertThat(current()).isEqualTo(at("10:00"));
    assertThat(bases.earlier())
        .extracting(Bases.Earlier::marked)
        .containsExactlyInAnyOrder(at("11:00"), at("12:00"));
  }

  @Test
  void backGoesToTheOneThatWasReplacedAndNotToOneThatSomebodyReturnedFrom() throws Exception {
    marked("10:00", "11:00").back();
    Bases bases = marked("12:00");
    bases.back();
    assertThat(current()).isEqualTo(at("10:00"));
    marked("13:00", "14:00");
    bases.back();
    assertThat(current()).isEqualTo(at("13:00"));
    bases.back();
    assertThat(current()).isEqualTo(at("10:00"));
  }

  @Test
  void backGoesByTheirOrderWhateverTheClockSaid() throws Exception {
    Bases bases = marked("10:00", "12:00", "12:00", "09:00");
    bases.back();
    assertThat(current()).isEqualTo(at("12:00"));
    bases.back();
    assertThat(current()).isEqualTo(at("12:00"));
    bases.back();
    assertThat(current()).isEqualTo(at("10:00"));
    assertThat(bases.back()).isEmpty();
  }

  @Test
  void aPlaceThatWasAlteredIsDamage() throws Exception {
    Bases bases = marked("10:00", "11:00");
    Files.writeString(folder.resolve("base/place.json"), "{\"order\": 3, \"sha256\": \"0\"}");
    assertThatThrownBy(bases::back)
        .isInstanceOf(DamagedBase.class)
        .hasMessageContaining("place.json: it is not as it was written");
  }

  @Test
  void aChangeThatEndedHalfwayIsFinished() throws Exception {
    marked("10:00");
    Files.move(folder.resolve("base"), folder.resolve("base.next"));
    assertThat(current()).isEqualTo(at("10:00"));
  }

  @Test
  void aChangeThatEndedBeforeItCountedIsKeptAside() throws Exception {
    Bases bases = marked("10:00", "11:00");
    Files.move(folder.resolve("bases/0001"), folder.resolve("base.next"));
    assertThat(current()).isEqualTo(at("11:00"));
    marked("12:00");
    assertThat(current()).isEqualTo(at("12:00"));
    assertThat(bases.earlier())
        .extracting(Bases.Earlier::marked)
        .containsExactlyInAnyOrder(at("10:00"), at("11:00"));
  }

  @Test
  void aCandidateThatIsDiscardedCountsForNothing() throws Exception {
    Bases bases = marked("10:00");
    new CaptureWriter("skerrow", "live", "here", "test", AtRest.CLEAR)
        .write(bases.candidate(), List.of(), table -> RowStream.EMPTY, at("11:00"), rows -> {});
    bases.discard();
    assertThat(current()).isEqualTo(at("10:00"));
    assertThat(bases.candidate()).doesNotExist();
  }
}
