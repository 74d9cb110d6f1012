package hardproof.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaModifier;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** The recipes of CONTRIBUTING.md that end in the core: whoever follows them is told what is still missing. */
class RecipesTest {
  private static final String SHIPPED = "hardproof.core.criteria.ShippedCriterion";

  private static String classOf(CriterionCode code) {
    return Arrays.stream(code.name().split("_"))
        .map(w -> w.charAt(0) + w.substring(1).toLowerCase(Locale.ROOT))
        .collect(Collectors.joining());
  }

  /** "A criterion": a class of its own, named by its code, and one line in the list. */
  @Test
  void everyCriterionIsAClassNamedByItsCodeAndEveryClassIsInTheList() {
    var imported = new ClassFileImporter()
        .withImportOption(new DoNotIncludeTests())
        .importPackages("hardproof.core.criteria");
    List<String> shipped = imported.stream()
        .filter(c -> c.isAssignableTo(SHIPPED) && !c.getModifiers().contains(JavaModifier.ABSTRACT))
        .map(JavaClass::getSimpleName)
        .toList();
    assertThat(shipped)
        .containsExactlyInAnyOrderElementsOf(
            Arrays.stream(CriterionCode.values()).map(RecipesTest::classOf).toList());
    classes()
        .that()
        .areAssignableTo(SHIPPED)
        .should()
        .bePackagePrivate()
        .because("what judges is asked by its code")
        .check(imported);
  }

  /** "A criterion": its example stands in docs/criteria.md; CriteriaDocTest carries it out. */
  @ParameterizedTest
  @EnumSource(CriterionCode.class)
  void everyCriterionHasAnExample(CriterionCode code) throws IOException {
    assertThat(Files.readString(Path.of("../docs/criteria.md")))
        .contains("=> " + code.code() + " ");
  }

  /** "A field of a fact": it stands in the table of docs/formats.md, bold where it is required. */
  @ParameterizedTest
  @EnumSource(BundleFile.class)
  void everyFieldStandsInTheDescriptionOfItsFile(BundleFile file) throws IOException {
    String row = Files.readAllLines(Path.of("../docs/formats.md")).stream()
        .filter(line -> line.startsWith("| `" + file.code() + "` |"))
        .findFirst()
        .orElseThrow();
    List<String> missing = new ArrayList<>();
    for (Field<?, ?> field : file.columns()) {
      String written = field.required() ? "\\*\\*" + field.name() + "\\*\\*" : field.name();
      if (!row.matches(".*[|,] ?" + written + "( \\(|,| \\|).*")) {
        missing.add(field.name());
      }
    }
    assertThat(missing).isEmpty();
  }
}
