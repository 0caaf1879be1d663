package weftex.cli;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.core.importer.Location;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.util.Map;
import java.util.stream.Collectors;

/** The rooms within each module: what may know what. */
@AnalyzeClasses(
    packages = "weftex",
    importOptions = {RoomsTest.OnlyTheProgram.class})
class RoomsTest {

  /** Without tests, wherever they lie. */
  static final class OnlyTheProgram implements ImportOption {
    @Override
    public boolean includes(Location location) {
      return !location.contains("/test-classes/") && !location.contains("-tests.jar");
    }
  }

  private static final int MOST = 20;

  @ArchTest
  static void aRoomHoldsAtMostTwentyTypes(JavaClasses all) {
    Map<String, Long> sizes =
        all.stream()
            .filter(JavaClass::isTopLevelClass)
            .filter(type -> !type.getSimpleName().equals("package-info"))
            .collect(Collectors.groupingBy(JavaClass::getPackageName, Collectors.counting()));
    assertThat(sizes).hasSizeGreaterThan(MOST);
    assertThat(sizes).allSatisfy((room, types) -> assertThat(types).isLessThanOrEqualTo(MOST));
  }

  @ArchTest
  static final ArchRule theCoreHasNoCircles =
      slices().matching("weftex.core.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule theStoreHasNoCircles =
      slices().matching("weftex.store.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule theCommandLineHasNoCircles =
      slices().matching("weftex.cli.(*)..").should().beFreeOfCycles();

  /** A further kind needs its room and its line in META-INF/services. */
  @ArchTest
  static final ArchRule nobodyKnowsAKindOfDatabaseByName =
      noClasses()
          .that()
          .resideOutsideOfPackages("weftex.store.mariadb..", "weftex.store.sqlite..")
          .and()
          .doNotHaveSimpleName("CheckCommand")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "weftex.store.mariadb..", "weftex.store.sqlite..", "org.mariadb..", "org.sqlite..");

  @ArchTest
  static final ArchRule filesAskNoDatabase =
      noClasses()
          .that()
          .resideInAnyPackage(
              "weftex.store.changeset..", "weftex.store.receipt..", "weftex.store.state..")
          .should()
          .dependOnClassesThat()
          .haveNameMatching("java\\.sql\\.(?!SQLException).*");
}
