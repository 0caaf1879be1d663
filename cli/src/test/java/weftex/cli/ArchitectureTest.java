package weftex.cli;

import static com.tngtech.archunit.base.DescribedPredicate.not;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.belongToAnyOf;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAnyPackage;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** The arrows between the modules: cli to store to core, and demo beside. */
@AnalyzeClasses(packages = "weftex", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {

  @ArchTest
  static final ArchRule coreIsPureComputation =
      noClasses()
          .that()
          .resideInAPackage("weftex.core..")
          .should()
          .dependOnClassesThat(
              resideInAnyPackage(
                      "weftex.store..",
                      "weftex.cli..",
                      "weftex.demo..",
                      "java.sql..",
                      "java.nio.file..",
                      "java.time..",
                      "java.net..",
                      "org.apache.commons.cli..")
                  // The spelling of host names and paths is computation.
                  .and(
                      not(
                          belongToAnyOf(
                              java.net.IDN.class,
                              java.net.URLEncoder.class,
                              java.net.URLDecoder.class))));

  @ArchTest
  static final ArchRule storeNeitherPrintsNorParsesArguments =
      noClasses()
          .that()
          .resideInAPackage("weftex.store..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "weftex.cli..", "weftex.demo..", "org.apache.commons.cli..", "me.tongfei..");

  @ArchTest
  static final ArchRule theCommandLineKnowsNoSql =
      noClasses()
          .that()
          .resideInAPackage("weftex.cli..")
          .should()
          .dependOnClassesThat()
          .haveNameMatching("java\\.sql\\.(?!SQLException).*");

  @ArchTest
  static final ArchRule theDemoStandsBeside =
      noClasses()
          .that()
          .resideInAPackage("weftex.demo..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("weftex.core..", "weftex.store..", "weftex.cli..");

  @ArchTest
  static final ArchRule onlyTheDemoCommandNeedsTheDemo =
      noClasses()
          .that()
          .resideInAPackage("weftex.cli..")
          .and()
          .haveNameNotMatching(".*\\.DemoCommand(\\$.*)?")
          .should()
          .dependOnClassesThat()
          .resideInAPackage("weftex.demo..");

  @ArchTest
  static final ArchRule nobodyPrintsPastThePage =
      noClasses()
          .that()
          .resideInAnyPackage("weftex.core..", "weftex.store..", "weftex.demo..")
          .should()
          .accessField(System.class, "out")
          .orShould()
          .accessField(System.class, "err");

  @ArchTest
  static final ArchRule noCatchAllNames =
      classes()
          .should()
          .haveSimpleNameNotEndingWith("Util")
          .andShould()
          .haveSimpleNameNotEndingWith("Manager")
          .andShould()
          .haveSimpleNameNotEndingWith("Helper")
          .andShould()
          .haveSimpleNameNotEndingWith("Impl");
}
