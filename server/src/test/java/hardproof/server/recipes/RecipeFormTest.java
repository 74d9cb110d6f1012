package hardproof.server.recipes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.wording.WrongValue;
import hardproof.server.recipes.RecipeForm.RecipeField;
import hardproof.server.recipes.RecipeForm.RecipeOutput;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** A recipe as somebody writes or changes it as JSON. */
class RecipeFormTest {
  private static RecipeForm form(RecipeOutput... outputs) {
    return new RecipeForm(
        "theirs", null, null, null, null, null, null, null, null, List.of(outputs));
  }

  private static RecipeField field(String column, String expression, String otherwise) {
    return new RecipeField(column, expression, otherwise, null, null);
  }

  private static RecipeOutput workloads(RecipeField key) {
    Map<String, RecipeField> fields = new HashMap<>();
    fields.put("key", key);
    fields.put("name", field("Name ", null, null));
    return new RecipeOutput("workloads", " ", null, fields);
  }

  @Test
  void whatIsLeftOutIsAsForAPlainFileAndItIsWrittenAsItWasRead() {
    RecipeForm form = form(workloads(field("ID", "", null)));
    assertThat(form.recipe().layout().header()).isEqualTo(1);
    assertThat(form.recipe().outputs().get(0).when()).isNull();
    assertThat(form.recipe().outputs().get(0).fields().get("name").column()).isEqualTo("name");
    assertThat(RecipeForm.of(form.recipe()).recipe()).isEqualTo(form.recipe());
  }

  @Test
  void whatCantBeRightIsRefusedAndNamed() {
    assertThatThrownBy(() -> form(workloads(field("a", "b", null))).recipe())
        .isInstanceOf(WrongValue.class)
        .hasMessage("workloads.key comes from a column or from an expression, not from both");
    assertThatThrownBy(() -> form(workloads(field(" ", null, null))).recipe())
        .hasMessageStartingWith("nothing leads to key, which workloads must have");
    assertThatThrownBy(
            () -> form(new RecipeOutput("songs", null, null, Map.of())).recipe())
        .hasMessageStartingWith("'songs' is not one of stores, policies");
    assertThatThrownBy(() -> form(new RecipeOutput(null, null, null, null)).recipe())
        .hasMessage("each of 'outputs' has a 'file' and 'fields'");
    Map<String, String> many = new HashMap<>();
    for (int i = 0; i <= 500; i++) {
      many.put("w" + i, "x");
    }
    assertThatThrownBy(
            () -> form(workloads(new RecipeField("a", null, null, many, null))).recipe())
        .hasMessage("workloads.key has more than 500 meanings");
    many.remove("w0");
    assertThat(form(workloads(new RecipeField("a", null, null, many, null))).recipe())
        .isNotNull();
  }
}
