package weftex.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class AppointmentsTest {

  private static final String OTHER =
      "a:1:{s:4:\"tidy\";a:1:{s:1:\"x\";a:2:{s:8:\"schedule\";s:5:\"daily\";s:4:\"args\";a:0:{}}}}";

  private static String with(String table, long seconds, int number) {
    return Appointments.with(
            table.getBytes(StandardCharsets.UTF_8), seconds, "publish", BigInteger.valueOf(number))
        .map(bytes -> new String(bytes, StandardCharsets.UTF_8))
        .orElse("");
  }

  private static void isWellFormed(String table) {
    assertThat(Structure.detect(table.getBytes(StandardCharsets.UTF_8))).as(table).isPresent();
  }

  @Test
  void aNewTimeStandsWhereItBelongs() {
    String table = "a:3:{i:100;" + OTHER + "i:300;" + OTHER + "s:7:\"version\";i:2;}";
    String with = with(table, 200, 12);
    isWellFormed(with);
    assertThat(with)
        .startsWith("a:4:{i:100;" + OTHER + "i:200;a:1:{s:7:\"publish\";a:1:{s:32:\"")
        .endsWith("a:1:{i:0;i:12;}}}}i:300;" + OTHER + "s:7:\"version\";i:2;}");
    assertThat(with(table, 400, 12))
        .contains("i:300;" + OTHER + "i:400;")
        .endsWith("s:7:\"version\";i:2;}");
    assertThat(with("a:0:{}", 5, 12)).startsWith("a:1:{i:5;a:1:{").endsWith("}");
  }

  @Test
  void aTimeThatIsThereGetsOneMore() {
    String one = with("a:2:{i:100;" + OTHER + "s:7:\"version\";i:2;}", 100, 12);
    isWellFormed(one);
    assertThat(one).startsWith("a:2:{i:100;a:2:{s:4:\"tidy\";").contains("}}s:7:\"publish\";a:1:{");
    String two = with(one, 100, 13);
    isWellFormed(two);
    assertThat(two).contains("s:7:\"publish\";a:2:{", "i:0;i:12;", "i:0;i:13;");
    assertThat(with(two, 100, 13)).as("it is there already").isEmpty();
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "x", "{\"a\":1}", "a:1:{i:0;", "s:1:\"a\";", "a:1:{i:100;i:5;}"})
  void whatIsNoSuchTableIsLeftAlone(String value) {
    assertThat(with(value, 100, 12)).isEmpty();
  }
}
