package hardproof.proving;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "hardproof.proving", importOptions = DoNotIncludeTests.class)
class ArchitectureTest {
  @ArchTest
  static final ArchRule knowsNeitherServerNorSpring = noClasses()
      .should()
      .dependOnClassesThat()
      .resideInAnyPackage("org.springframework..", "hardproof.server..", "hardproof.standins..");

  /** Databases are what was restored; facts and runs are kept by others. */
  @ArchTest
  static final ArchRule sqlOnlyOfWhatWasRestored = noClasses()
      .that()
      .resideOutsideOfPackage("hardproof.proving.databases..")
      .should()
      .dependOnClassesThat()
      .resideInAnyPackage("java.sql..", "javax.sql..", "org.sqlite..");

  @ArchTest
  static final ArchRule noCycles =
      slices().matching("hardproof.proving.(*)..").should().beFreeOfCycles();
}
