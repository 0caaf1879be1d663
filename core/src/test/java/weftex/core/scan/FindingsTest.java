package weftex.core.scan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import weftex.core.model.Role;

class FindingsTest {
  private static Finding finding(FindingKind kind, String table, String key, Role role) {
    return new Finding(kind, table, key, "body", "", role);
  }

  @Test
  void allAreCountedAndTheFirstAreKept() {
    Findings findings = new Findings(2);
    for (int i = 1; i <= 5; i++) {
      findings.add(
          finding(FindingKind.values()[0], "pages", String.valueOf(i), Role.CONTENT), "plain");
    }
    List<Findings.Sort> sorts = findings.sorts();
    assertThat(sorts).hasSize(1);
    assertThat(sorts.get(0).rows()).isEqualTo(5);
    assertThat(sorts.get(0).hits()).containsExactlyEntriesOf(Map.of("plain", 5L));
    assertThat(sorts.get(0).first()).extracting(Finding::key).containsExactly("1", "2");
  }

  @Test
  void severalHitsInARowAreOneRow() {
    Findings findings = new Findings(9);
    findings.add(finding(FindingKind.values()[0], "pages", "4", Role.CONTENT), "plain");
    findings.add(finding(FindingKind.values()[0], "pages", "4", Role.CONTENT), "escaped");
    findings.add(finding(FindingKind.values()[0], "pages", "4", Role.CONTENT), "plain");
    Findings.Sort sort = findings.sorts().get(0);
    assertThat(sort.rows()).isEqualTo(1);
    assertThat(sort.hits()).containsEntry("plain", 2L).containsEntry("escaped", 1L);
  }

  @Test
  void sortsComeByKindThenRoleThenTable() {
    FindingKind one = FindingKind.values()[0];
    FindingKind other = FindingKind.values()[1];
    Findings findings = new Findings(1);
    findings.add(finding(other, "pages", "1", Role.CONTENT));
    findings.add(finding(one, "visits", "1", Role.NOISE));
    findings.add(finding(one, "pages", "1", Role.CONTENT));
    findings.add(finding(one, "fares", "1", Role.CONTENT));
    assertThat(findings.sorts())
        .extracting(sort -> sort.place().kind(), sort -> sort.place().table())
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(one, "fares"),
            org.assertj.core.groups.Tuple.tuple(one, "pages"),
            org.assertj.core.groups.Tuple.tuple(one, "visits"),
            org.assertj.core.groups.Tuple.tuple(other, "pages"));
  }

  @Test
  void nothingFoundIsNoSort() {
    assertThat(new Findings(5).sorts()).isEmpty();
  }
}
