package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Mapping;
import hardproof.core.feeds.MappingGuess;
import hardproof.core.feeds.RawRow;
import hardproof.core.wording.Coded;
import hardproof.server.activity.Activity;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.Principal;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
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

/** Mappings for other people's exports: guessed from a file, changed by a person, kept by name. */
@RestController
@RequestMapping("/api")
class MappingController {
  private static final int SAMPLES = 5;
  private static final int ROWS_READ = 200;

  private final MappingStore mappings;
  private final Activity activity;
  private final Clock clock;

  MappingController(MappingStore mappings, Activity activity, Clock clock) {
    this.mappings = mappings;
    this.activity = activity;
    this.clock = clock;
  }

  /** A mapping; {@code file} is a file of the bundle. */
  record MappingForm(
      @NotBlank String name,
      @NotBlank String file,
      @NotNull Map<String, String> columns,
      @NotNull Map<String, String> constants,
      @NotNull Map<String, Map<String, String>> values,
      @Nullable String zone,
      @Nullable String timePattern,
      @NotNull Map<String, String> units) {
    static MappingForm of(Mapping m) {
      return new MappingForm(
          m.name(),
          m.file().code(),
          m.columns(),
          m.constants(),
          m.values(),
          m.zone(),
          m.timePattern(),
          m.units());
    }

    Mapping mapping() {
      return new Mapping(
          name.strip(),
          Coded.of(BundleFile.class, file),
          filled(columns),
          filled(constants),
          values,
          blankToNull(zone),
          blankToNull(timePattern),
          filled(units));
    }

    private static Map<String, String> filled(Map<String, String> map) {
      Map<String, String> filled = new LinkedHashMap<>(map);
      filled.values().removeIf(v -> v == null || v.isBlank());
      return filled;
    }

    private static String blankToNull(String text) {
      return text == null || text.isBlank() ? null : text.strip();
    }
  }

  @Operation(summary = "Mappings of exports to bundle files")
  @GetMapping("/mappings")
  List<MappingForm> all() {
    return mappings.all().stream().map(MappingForm::of).toList();
  }

  @Operation(summary = "Keep a mapping")
  @PutMapping("/mappings")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keep(@Valid @RequestBody MappingForm form, Principal person) {
    mappings.keep(form.mapping(), person.getName(), clock.instant());
    activity.record(person.getName(), "mapping kept", form.mapping().name(), "");
  }

  @Operation(summary = "Remove a mapping")
  @DeleteMapping("/mappings/{name}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String name, Principal person) {
    if (!mappings.remove(name)) {
      throw new NotFound("No mapping '" + name + "' is known.");
    }
    activity.record(person.getName(), "mapping removed", name, "");
  }

  /** The columns of an export with samples, and which field each may be. */
  record MappingSuggestion(String file, List<ExportColumn> columns, Map<String, String> guessed) {}

  record ExportColumn(String name, List<String> samples) {}

  @Operation(summary = "Guess how an export maps to a bundle file")
  @PostMapping(path = "/mapping-suggestions", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
  MappingSuggestion suggest(@RequestParam String as, @RequestPart MultipartFile export)
      throws IOException {
    BundleFile file = Coded.find(BundleFile.class, as)
        .orElseThrow(() -> new Refused("'" + as + "' is no file of a bundle; choose one of "
            + Coded.codes(BundleFile.class) + "."));
    String name =
        export.getOriginalFilename() == null ? "export.csv" : export.getOriginalFilename();
    Path copy = Files.createTempFile("hard-proof-export-", ".tmp");
    try {
      export.transferTo(copy);
      List<MappingGuess.Column> columns = columns(copy, name);
      return new MappingSuggestion(
          file.code(),
          columns.stream().map(c -> new ExportColumn(c.name(), c.samples())).toList(),
          MappingGuess.guess(file, columns));
    } catch (UnreadableFile e) {
      throw new Refused(e.rejection().sentence() + ".");
    } finally {
      Files.deleteIfExists(copy);
    }
  }

  private static List<MappingGuess.Column> columns(Path file, String name) throws IOException {
    Map<String, Set<String>> samples = new LinkedHashMap<>();
    try (Rows rows = Rows.open(file, name, null)) {
      if (rows instanceof CsvRows csv) {
        csv.header().forEach(c -> samples.put(c, new LinkedHashSet<>()));
      }
      readSamples(samples, rows);
    }
    List<MappingGuess.Column> columns = new ArrayList<>();
    samples.forEach(
        (column, some) -> columns.add(new MappingGuess.Column(column, List.copyOf(some))));
    return columns;
  }

  private static void readSamples(Map<String, Set<String>> samples, Rows rows) throws IOException {
    Rows.Next next;
    for (int i = 0; i < ROWS_READ && (next = rows.next()) != null; i++) {
      RawRow row = next.row();
      if (row != null) {
        row.values().forEach((column, value) -> {
          Set<String> some = samples.computeIfAbsent(column, k -> new LinkedHashSet<>());
          if (some.size() < SAMPLES) {
            some.add(value);
          }
        });
      }
    }
  }
}
