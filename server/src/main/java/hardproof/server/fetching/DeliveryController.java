package hardproof.server.fetching;

import hardproof.core.wording.Wording;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.feeds.FileResult;
import hardproof.server.recipes.RecipeStore;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Takes a report from whoever has the token of a feed. */
@RestController
class DeliveryController {
  private static final String BEARER = "Bearer ";

  private final DeliveryTokens tokens;
  private final Delivering delivering;
  private final RecipeStore recipes;
  private final Clock clock;

  DeliveryController(
      DeliveryTokens tokens, Delivering delivering, RecipeStore recipes, Clock clock) {
    this.tokens = tokens;
    this.delivering = delivering;
    this.recipes = recipes;
    this.clock = clock;
  }

  /**
   * What became of a delivery.
   *
   * @param taken whether all of it was
   */
  record Delivered(boolean taken, String said, List<FileResult> files) {}

  /** The token is the only proof of who delivers: there is no session. */
  @Operation(
      summary = "Deliver a report to a feed, by its token (Authorization: Bearer)",
      description = "The body is the file itself. 422 where not all of it could be taken.")
  @PostMapping("/api/deliveries/{feed}")
  ResponseEntity<Delivered> deliver(
      @PathVariable String feed,
      @RequestParam(required = false) String file,
      @RequestHeader(name = "Authorization", required = false) @Nullable String authorization,
      HttpServletRequest request)
      throws IOException {
    String token = authorization != null && authorization.startsWith(BEARER)
        ? authorization.substring(BEARER.length()).strip()
        : "";
    if (!tokens.opens(feed, token, clock.instant())) {
      return ResponseEntity.status(HttpStatus.UNAUTHORIZED)
          .body(new Delivered(false, "This token opens no such feed.", List.of()));
    }
    String name = file == null || file.isBlank() ? "report.csv" : file.strip();
    if (!name.matches("[^/\\\\\\p{Cntrl}]{1,200}") || name.startsWith(".")) {
      throw new Refused(
          "'" + name + "' is no name of a file; give its last part, with its ending.");
    }
    Path work = Files.createTempDirectory("hard-proof-delivery-");
    try {
      Path laid = work.resolve(name);
      if (!Delivering.lay(request.getInputStream(), laid, Delivering.MOST_BYTES)) {
        throw new Refused("A delivery has at most " + Wording.bytes(Delivering.MOST_BYTES)
            + "; nothing of it was taken.");
      }
      Delivering.Taken taken =
          delivering.take(feed, laid, recipes.find(feed).orElse(null), "delivered");
      return ResponseEntity.status(taken.whole() ? HttpStatus.OK : HttpStatus.UNPROCESSABLE_CONTENT)
          .body(new Delivered(taken.whole(), taken.said(), taken.files()));
    } finally {
      Sandboxes.removeTree(work);
    }
  }
}
