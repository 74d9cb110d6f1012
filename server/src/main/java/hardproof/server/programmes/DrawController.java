package hardproof.server.programmes;

import hardproof.core.programmes.Draw;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What was drawn at random, so that whoever doubts it can draw it again. */
@RestController
@RequestMapping("/api/programmes/{key}/starts/{due}")
class DrawController {
  private static final int RANKS_SHOWN = 200;

  private final DrawStore draws;
  private final Clock clock;

  DrawController(DrawStore draws, Clock clock) {
    this.draws = draws;
    this.clock = clock;
  }

  /**
   * What was drawn at a start.
   *
   * @param known the digest of what was known before
   * @param sample so many of all were drawn; absent where one of each resource was
   * @param repeats whether drawing it again comes to the same; where not, somebody changed what was kept
   * @param ranks the lowest, in their order
   */
  record DrawView(
      String seed,
      String digest,
      String known,
      int candidates,
      @Nullable Integer sample,
      boolean repeats,
      List<RankView> ranks) {}

  /** A candidate with its rank; {@code drawn} where it was drawn. */
  record RankView(String rank, String resource, String point, boolean drawn) {}

  @Operation(summary = "What was drawn at random at a start of a programme")
  @GetMapping("/draw")
  DrawView draw(@PathVariable String key, @PathVariable Instant due) {
    DrawStore.Kept kept = kept(key, due);
    Draw again = kept.again();
    Set<Draw.Candidate> drawn = kept.drawnAgain();
    return new DrawView(
        kept.seed(),
        kept.digest(),
        kept.known(),
        again.ranked().size(),
        kept.sample(),
        kept.repeats(),
        again.ranked().stream()
            .limit(RANKS_SHOWN)
            .map(c -> new RankView(again.rank(c), c.resource(), c.point(), drawn.contains(c)))
            .toList());
  }

  @Operation(summary = "The candidates of a draw, a line each")
  @GetMapping(value = "/candidates", produces = MediaType.TEXT_PLAIN_VALUE + ";charset=UTF-8")
  String candidates(@PathVariable String key, @PathVariable Instant due) {
    return kept(key, due).list();
  }

  private DrawStore.Kept kept(String key, Instant due) {
    // What lies beyond what milliseconds can count was no start either.
    boolean was = !due.isBefore(Instant.EPOCH) && !due.isAfter(clock.instant());
    return (was ? draws.of(key, due) : Optional.<DrawStore.Kept>empty())
        .orElseThrow(() -> new NotFound(
            "Nothing was drawn at random at the start of '" + key + "' at " + due + "."));
  }
}
