package hardproof.server.searches;

import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Searches for the last good point. */
@RestController
@RequestMapping("/api/point-searches")
class PointSearchController {
  private static final int SHOWN = 50;

  private final PointSearches searches;
  private final Supplier<Estate> estate;

  PointSearchController(PointSearches searches, Supplier<Estate> estate) {
    this.searches = searches;
    this.estate = estate;
  }

  /** A search; {@code goodPoint} absent while nothing is found. */
  record SearchView(
      long id,
      String resource,
      String resourceName,
      Method method,
      String requestedBy,
      String reason,
      Instant startedAt,
      @Nullable Instant endedAt,
      @Nullable String goodPoint,
      String sentence,
      List<TriedPoint> tried) {}

  /** A point that was tried; {@code passed} absent while it is. */
  record TriedPoint(
      String point,
      @Nullable Instant dataTime,
      String run,
      @Nullable Boolean passed) {}

  @Operation(summary = "Searches for the newest good point")
  @GetMapping
  List<SearchView> all() {
    return searches.all(SHOWN).stream().map(this::view).toList();
  }

  private SearchView view(PointSearch s) {
    Estate facts = estate.get();
    var resource = facts.resource(s.resource());
    return new SearchView(
        s.id(),
        s.resource(),
        resource == null ? s.resource() : resource.name(),
        s.method(),
        s.requestedBy(),
        s.reason(),
        s.startedAt(),
        s.endedAt(),
        s.goodPoint(),
        s.sentence(),
        s.tried().stream()
            .map(t -> {
              var point = facts.point(s.resource(), t.point());
              return new TriedPoint(
                  t.point(), point == null ? null : point.dataTime(), t.run(), t.passed());
            })
            .toList());
  }

  /** What is looked for; what is left out is filled in as for a drill. */
  record WantedSearch(
      @NotBlank String resource,
      @Nullable String store,
      @Nullable Method method,
      @Nullable String reason) {}

  @Operation(summary = "Look for the newest good point by halving")
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  SearchView begin(@Valid @RequestBody WantedSearch wanted, Principal person) {
    if (wanted.reason() == null || wanted.reason().isBlank()) {
      throw new Refused("Say why it is looked for: the reason stands in the evidence.");
    }
    return view(searches.begin(
        wanted.resource(),
        wanted.store() == null || wanted.store().isBlank() ? null : wanted.store(),
        wanted.method(),
        null,
        person.getName(),
        wanted.reason().strip()));
  }

  @Operation(summary = "Cancel a search")
  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void cancel(@PathVariable long id) {
    if (searches.find(id).isEmpty()) {
      throw new NotFound("No search " + id + " is known.");
    }
    searches.cancel(id);
  }
}
