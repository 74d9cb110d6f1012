package hardproof.server.drills;

import hardproof.server.outside.EventSigner;
import hardproof.server.outside.OutsideChecks;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Takes the answers of those outside who were asked about a run. */
@RestController
class OutsideCheckController {
  private final OutsideChecks outside;
  private final RunQueue queue;
  private final EventSigner signer;

  OutsideCheckController(OutsideChecks outside, RunQueue queue, EventSigner signer) {
    this.outside = outside;
    this.queue = queue;
    this.signer = signer;
  }

  /** An answer; {@code message} stands in the evidence. */
  record OutsideAnswer(@NotNull Boolean passed, @Nullable String message) {}

  /** The token is the only proof of who answers; it works once, until the time-out. */
  @Operation(summary = "Answer an outside check")
  @PostMapping("/api/outside-checks/{token}")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void answer(@PathVariable String token, @Valid @RequestBody OutsideAnswer answer) {
    String run = outside
        .take(
            token,
            answer.passed(),
            answer.message() == null ? "" : answer.message().strip())
        .orElseThrow(
            () -> new NotFound("This token is not known, was used already, or its time is over."));
    queue.answerFromOutside(run);
  }

  /** The key that events sent outside are signed with, to check their signature. */
  @Operation(summary = "The public key that events are signed with")
  @GetMapping(path = "/api/event-key", produces = MediaType.TEXT_PLAIN_VALUE)
  String key() {
    return signer.publicKeyPem();
  }
}
