package weftex.core.address;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class AddressTest {
  @ParameterizedTest
  @CsvSource({
    "https://skerrow.example, https://skerrow.example",
    "HTTPS://Skerrow.Example:8443/shop//, https://skerrow.example:8443/shop",
    "http://fähre.example, http://xn--fhre-loa.example"
  })
  void anAddressIsReadAsAHostAndAPath(String written, String read) {
    assertThat(Address.parse(written)).hasToString(read);
  }

  @ParameterizedTest
  @ValueSource(strings = {"https://straße.example", "https://ναύς.example"})
  void aHostThatProgramsSpellInTwoWaysIsAskedForInItsAsciiForm(String written) {
    assertThatThrownBy(() -> Address.parse(written)).hasMessageContaining("xn-- form");
  }

  @Test
  void theOtherSpellingHasWwwOrLacksIt() {
    Address plain = Address.parse("https://skerrow.example/a");
    assertThat(plain.otherWww()).hasToString("https://www.skerrow.example/a");
    assertThat(plain.otherWww().otherWww()).isEqualTo(plain);
  }
}
