package hardproof.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.io.ByteArrayOutputStream;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.text.Normalizer;

/** The core is functions of facts and an instant; {@link WallsTest} shows that what is no such function is refused. */
@AnalyzeClasses(packages = "hardproof.core", importOptions = DoNotIncludeTests.class)
class ArchitectureTest {
  /**
   * The JDK, without what reaches files and networks (bytes in memory are no files), and distributions that are not
   * worth writing once more.
   */
  @ArchTest
  static final ArchRule jdkOnly = classes()
      .should()
      .onlyDependOnClassesThat(JavaClass.Predicates.resideInAnyPackage(
              "hardproof.core..",
              "java.lang",
              "java.lang.annotation",
              "java.lang.invoke",
              "java.lang.runtime",
              "java.util",
              "java.util.function",
              "java.util.stream",
              "java.util.regex",
              "java.util.concurrent..",
              "java.time..",
              "org.jspecify.annotations",
              "org.apache.commons.statistics.distribution",
              "java.math..")
          .or(JavaClass.Predicates.belongToAnyOf(
              ByteArrayOutputStream.class,
              ByteOrder.class,
              StandardCharsets.class,
              MessageDigest.class,
              NoSuchAlgorithmException.class,
              Normalizer.class,
              Normalizer.Form.class)));

  @ArchTest
  static final ArchRule nothingFromOutside = Walls.NOTHING_FROM_OUTSIDE;

  @ArchTest
  static final ArchRule noCycles =
      slices().matching("hardproof.core.(*)..").should().beFreeOfCycles();
}
