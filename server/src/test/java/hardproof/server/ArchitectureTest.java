package hardproof.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "hardproof", importOptions = DoNotIncludeTests.class)
class ArchitectureTest {
  @ArchTest
  static final ArchRule standInsAreKnownToTheDemoOnly = noClasses()
      .that()
      .resideInAPackage("hardproof.server..")
      .and()
      .resideOutsideOfPackage("hardproof.server.demo..")
      .should()
      .dependOnClassesThat()
      .resideInAPackage("hardproof.standins..");

  @ArchTest
  static final ArchRule nobodyKnowsTheServer = noClasses()
      .that()
      .resideInAnyPackage("hardproof.core..", "hardproof.proving..", "hardproof.standins..")
      .should()
      .dependOnClassesThat()
      .resideInAPackage("hardproof.server..");

  @ArchTest
  static final ArchRule oneJson = noClasses()
      .that()
      .doNotHaveSimpleName(
          "RecordSchemas") // the library of the description has a JSON library of its own
      .should()
      .dependOnClassesThat()
      .resideInAnyPackage("com.fasterxml.jackson.databind..");

  @ArchTest
  static final ArchRule noCycles =
      slices().matching("hardproof.server.(*)..").should().beFreeOfCycles();
}
