package hardproof.server.recipes;

import hardproof.core.feeds.BundleFile;
import hardproof.core.recipes.FieldRule;
import hardproof.core.recipes.Layout;
import hardproof.core.recipes.Output;
import hardproof.core.recipes.Recipe;
import hardproof.core.recipes.TimeReading;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** A recipe as it is sent, kept and given away: as JSON. What is left out is as for a plain file. */
public record RecipeForm(
    @NotBlank @Size(max = 200) String name,
    @Nullable Integer header,
    @Nullable Integer footers,
    @Nullable String separator,
    @Nullable List<String> sheets,
    @Nullable String path,
    @Nullable List<String> filledDown,
    @Nullable String zone,
    @Nullable String timePattern,
    @NotNull @Valid List<RecipeOutput> outputs) {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /**
   * Out of a file that somebody was given.
   *
   * @throws WrongValue where it holds no recipe
   */
  public static RecipeForm read(Path file) {
    try {
      RecipeForm form = JSON.readValue(file, RecipeForm.class);
      if (form == null || form.name() == null || form.outputs() == null) {
        throw new WrongValue(file + " is no recipe: it needs a name and outputs");
      }
      return form;
    } catch (JacksonException e) {
      throw new WrongValue(file + " is no recipe: " + e.getOriginalMessage(), e);
    }
  }

  /** One kind of rows; {@code file} is a file of the bundle. */
  public record RecipeOutput(
      @NotBlank String file,
      @Nullable String when,
      @Nullable Boolean once,
      @NotNull @Valid Map<String, RecipeField> fields) {}

  /** How a field is filled. */
  public record RecipeField(
      @Nullable String column,
      @Nullable String expression,
      @Nullable String otherwise,
      @Nullable Map<String, String> meanings,
      @Nullable String unit) {}

  /** As it is written down. */
  public static RecipeForm of(Recipe recipe) {
    Layout layout = recipe.layout();
    return new RecipeForm(
        recipe.name(),
        layout.header(),
        layout.footers(),
        layout.separator(),
        layout.sheets(),
        layout.path(),
        layout.filledDown(),
        recipe.times().zone(),
        recipe.times().pattern(),
        recipe.outputs().stream().map(RecipeForm::of).toList());
  }

  private static RecipeOutput of(Output output) {
    Map<String, RecipeField> fields = new LinkedHashMap<>();
    output
        .fields()
        .forEach((name, rule) -> fields.put(
            name,
            new RecipeField(
                rule.column(), rule.expression(), rule.otherwise(), rule.meanings(), rule.unit())));
    return new RecipeOutput(output.file().code(), output.when(), output.once(), fields);
  }

  /**
   * As it works.
   *
   * @throws WrongValue with what can't be right
   */
  public Recipe recipe() {
    Layout layout = new Layout(
        header == null ? 1 : header,
        footers == null ? 0 : footers,
        separator == null ? "" : separator,
        filled(sheets),
        path == null ? "" : path.strip(),
        filled(filledDown).stream().map(c -> c.strip().toLowerCase(Locale.ROOT)).toList());
    return new Recipe(
        name.strip(),
        layout,
        new TimeReading(blankToNull(zone), blankToNull(timePattern)),
        outputs.stream().map(RecipeForm::output).toList());
  }

  private static List<String> filled(@Nullable List<String> texts) {
    return texts == null
        ? List.of()
        : texts.stream().filter(t -> t != null && !t.isBlank()).toList();
  }

  private static Output output(RecipeOutput form) {
    if (form == null || form.file() == null || form.fields() == null) {
      throw new WrongValue("each of 'outputs' has a 'file' and 'fields'");
    }
    BundleFile file = Coded.of(BundleFile.class, form.file());
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    form.fields().forEach((name, field) -> {
      if (field != null && !empty(field)) {
        try {
          fields.put(name, rule(field));
        } catch (WrongValue e) {
          throw new WrongValue(form.file() + "." + name + " " + e.getMessage(), e);
        }
      }
    });
    return new Output(file, blankToNull(form.when()), Boolean.TRUE.equals(form.once()), fields);
  }

  private static boolean empty(RecipeField field) {
    return blankToNull(field.column()) == null
        && blankToNull(field.expression()) == null
        && blankToNull(field.otherwise()) == null;
  }

  private static FieldRule rule(RecipeField field) {
    Map<String, String> meanings = new LinkedHashMap<>();
    if (field.meanings() != null) {
      field.meanings().forEach((from, to) -> {
        if (to != null && !to.isBlank()) {
          meanings.put(from.strip(), to.strip());
        }
      });
    }
    String column = blankToNull(field.column());
    return new FieldRule(
        column == null ? null : column.toLowerCase(Locale.ROOT),
        blankToNull(field.expression()),
        blankToNull(field.otherwise()),
        meanings,
        blankToNull(field.unit()));
  }

  private static @Nullable String blankToNull(@Nullable String text) {
    return text == null || text.isBlank() ? null : text.strip();
  }
}
