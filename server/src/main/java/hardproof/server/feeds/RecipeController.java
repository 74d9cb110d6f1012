package hardproof.server.feeds;

import hardproof.core.recipes.FieldRule;
import hardproof.core.recipes.Output;
import hardproof.core.recipes.Recipe;
import hardproof.core.recipes.RecipeGuess;
import hardproof.core.recipes.ReportTable;
import hardproof.core.wording.WrongValue;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.server.activity.Activity;
import hardproof.server.recipes.RecipeForm;
import hardproof.server.recipes.RecipeStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.Principal;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RequestPart;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

/** Recipes for other people's reports: guessed from a file, tried, changed by a person, kept by name. */
@RestController
@RequestMapping("/api")
class RecipeController {
  private static final int SAMPLES = 5;

  private final RecipeStore recipes;
  private final Activity activity;
  private final Clock clock;

  RecipeController(RecipeStore recipes, Activity activity, Clock clock) {
    this.recipes = recipes;
    this.activity = activity;
    this.clock = clock;
  }

  @Operation(summary = "Recipes for other people's reports")
  @GetMapping("/recipes")
  List<RecipeForm> all() {
    return recipes.all().stream().map(RecipeForm::of).toList();
  }

  @Operation(summary = "Keep a recipe")
  @PutMapping("/recipes")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keep(@Valid @RequestBody RecipeForm form, Principal person) {
    Recipe recipe = form.recipe();
    RecipeRows.check(recipe);
    recipes.keep(recipe, person.getName(), clock.instant());
    activity.record(person.getName(), "recipe kept", recipe.name(), "");
  }

  @Operation(summary = "Remove a recipe")
  @DeleteMapping("/recipes/{name}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String name, Principal person) {
    if (!recipes.remove(name)) {
      throw new NotFound("No recipe '" + name + "' is known.");
    }
    activity.record(person.getName(), "recipe removed", name, "");
  }

  /**
   * How a report may be read.
   *
   * @param recipe null where nothing of it tells of backups
   * @param notes what was taken for granted
   */
  record RecipeSuggestion(
      @Nullable RecipeForm recipe,
      List<String> notes,
      List<ReportColumn> columns,
      List<RecipeTrial.OutputTrial> outputs) {}

  record ReportColumn(String name, List<String> samples) {}

  @Operation(summary = "Guess how a report becomes facts; nothing is stored")
  @PostMapping(path = "/recipe-suggestions", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
  RecipeSuggestion suggest(
      @RequestParam String name,
      @RequestParam(required = false) String zone,
      @RequestPart MultipartFile report)
      throws IOException {
    ZoneId in = zone(zone);
    return laidDown(report, (path, file) -> {
      ReportTable table = ReportSampler.sample(path, file);
      RecipeGuess.Guess guess = RecipeGuess.of(
          name.isBlank() ? "report" : name.strip(),
          table,
          in,
          Set.copyOf(ArtifactFormat.codes()),
          clock.instant());
      List<ReportColumn> columns = columns(table);
      if (guess == null) {
        return new RecipeSuggestion(
            null,
            List.of("Nothing in it was found to tell of backups: say yourself what it gives."),
            columns,
            List.of());
      }
      return tried(path, file, guess, columns);
    });
  }

  private static ZoneId zone(@Nullable String zone) {
    try {
      return ZoneId.of(zone == null || zone.isBlank() ? "UTC" : zone);
    } catch (DateTimeException e) {
      throw new Refused("'" + zone + "' is no time zone; write it as Europe/Oslo or UTC.");
    }
  }

  private static List<ReportColumn> columns(ReportTable table) {
    return table.columns().stream()
        .map(c -> new ReportColumn(c, table.samples(c).stream().limit(SAMPLES).toList()))
        .toList();
  }

  /** What can't be read in most rows, and need not be there, is left out again. */
  private RecipeSuggestion tried(
      Path path, String file, RecipeGuess.Guess guess, List<ReportColumn> columns)
      throws IOException {
    Recipe recipe = guess.recipe();
    List<String> notes = new ArrayList<>(guess.notes());
    List<RecipeTrial.OutputTrial> trials = RecipeTrial.of(path, file, recipe, clock.instant());
    List<Output> outputs = new ArrayList<>();
    for (int i = 0; i < trials.size(); i++) {
      Output output = recipe.outputs().get(i);
      Map<String, FieldRule> fields = new LinkedHashMap<>(output.fields());
      long rows = trials.get(i).good() + trials.get(i).rejected();
      trials.get(i).wrong().forEach((field, times) -> {
        boolean needed =
            !output.file().hasColumn(field) || output.file().column(field).required();
        if (!needed && times * 2 > rows && fields.remove(field) != null) {
          notes.add(output.file().code() + "." + field
              + " is left out: what stands there is not written as it has to be.");
        }
      });
      outputs.add(new Output(output.file(), output.when(), output.once(), fields));
    }
    Recipe better = new Recipe(recipe.name(), recipe.layout(), recipe.times(), outputs);
    return new RecipeSuggestion(
        RecipeForm.of(better),
        notes,
        columns,
        better.equals(recipe) ? trials : RecipeTrial.of(path, file, better, clock.instant()));
  }

  @Operation(summary = "What the first rows of a report give by a recipe; nothing is stored")
  @PostMapping(path = "/recipe-trials", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
  List<RecipeTrial.OutputTrial> tryOut(
      @Valid @RequestPart RecipeForm recipe, @RequestPart MultipartFile report) throws IOException {
    Recipe as = recipe.recipe();
    return laidDown(report, (path, file) -> RecipeTrial.of(path, file, as, clock.instant()));
  }

  private interface Looking<T> {
    T look(Path path, String file) throws IOException;
  }

  /** As a file, for as long as it is looked at. */
  private static <T> T laidDown(MultipartFile report, Looking<T> looking) throws IOException {
    String name =
        report.getOriginalFilename() == null ? "report.csv" : report.getOriginalFilename();
    Path copy = Files.createTempFile("hard-proof-report-", ".tmp");
    try {
      report.transferTo(copy);
      return looking.look(copy, name);
    } catch (UnreadableFile e) {
      throw new Refused(e.rejection().sentence() + ".");
    } catch (WrongValue e) {
      throw new Refused(e.getMessage() + ".");
    } finally {
      Files.deleteIfExists(copy);
    }
  }
}
