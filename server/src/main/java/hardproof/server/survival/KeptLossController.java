package hardproof.server.survival;

import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.wording.WrongValue;
import hardproof.server.activity.Activity;
import hardproof.server.proof.Evaluations;
import hardproof.server.survival.KeptLosses.Kept;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Losses that have a name. */
@RestController
@RequestMapping("/api/kept-losses")
class KeptLossController {
  private final KeptLosses kept;
  private final Evaluations evaluations;
  private final Activity activity;
  private final Clock clock;

  KeptLossController(KeptLosses kept, Evaluations evaluations, Activity activity, Clock clock) {
    this.kept = kept;
    this.evaluations = evaluations;
    this.activity = activity;
    this.clock = clock;
  }

  /** One of them; what its parts were called when it was kept may be gone by now. */
  record KeptLossView(String name, String words, LossDraft loss, String by, Instant at) {}

  /** What is kept, under which name. */
  record KeptLossDraft(
      @NotBlank @Size(max = 60) String name, @NotNull LossDraft loss) {}

  @Operation(summary = "Losses that people gave a name")
  @GetMapping
  List<KeptLossView> all() {
    Estate estate = evaluations.now().estate();
    return kept.all().stream()
        .map(k -> new KeptLossView(
            k.name(), k.loss().words(estate::storeName), LossDraft.of(k.loss()), k.by(), k.at()))
        .toList();
  }

  @Operation(summary = "Keeps a loss under a name, in place of another of that name")
  @PutMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keep(@RequestBody @Valid KeptLossDraft draft, Principal person) {
    Loss loss = draft.loss().loss(evaluations.now().estate());
    if (loss.equals(Loss.NONE)) {
      throw new WrongValue("nothing is lost yet; say first what is");
    }
    String name = draft.name().strip();
    kept.keep(new Kept(name, loss, person.getName(), clock.instant()));
    activity.record(person.getName(), "loss kept", name, loss.words());
  }

  @Operation(summary = "Forgets a loss that was kept")
  @DeleteMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void forget(@RequestParam String name, Principal person) {
    if (!kept.forget(name)) {
      throw new NotFound("No loss is kept as '" + name + "'.");
    }
    activity.record(person.getName(), "loss forgotten", name, "");
  }
}
