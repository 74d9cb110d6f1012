package hardproof.server.demo;

import io.swagger.v3.oas.annotations.Operation;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What time it is here, which in a demo may be another than elsewhere. */
@RestController
@RequestMapping("/api/clock")
class ClockController {
  private static final Duration APART = Duration.ofMinutes(1);

  private final Clock clock;

  ClockController(Clock clock) {
    this.clock = clock;
  }

  /**
   * The clock that everything goes by.
   *
   * @param pace how many times as fast as the real one it goes
   * @param real whether it is the real one
   */
  record ClockView(Instant now, double pace, boolean real) {}

  @Operation(summary = "The clock that everything goes by")
  @GetMapping
  ClockView now() {
    Instant now = clock.instant();
    double pace = clock instanceof DemoClock demo ? demo.pace() : 1;
    boolean apart = Duration.between(Instant.now(), now).abs().compareTo(APART) > 0;
    boolean real = !(clock instanceof DemoClock) || (pace == 1 && !apart);
    return new ClockView(now, pace, real);
  }
}
