package hardproof.server.programmes;

import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.server.activity.Activity;
import hardproof.server.delivery.MailDrop;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.WaitingStore;
import hardproof.server.searches.PointSearches;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What programmes do when one of their drills has ended: try it again, look for the last good point, tell of it. */
public final class FollowUps {
  private static final Logger LOG = LoggerFactory.getLogger(FollowUps.class);

  /** Nothing that ended longer ago is tried again. */
  private static final Duration AT_MOST = Duration.ofDays(8);

  /** A new try may wait so long for its turn. */
  private static final Duration MAY_WAIT = Duration.ofDays(1);

  private final ProgrammeStore programmes;
  private final RunStore runs;
  private final WaitingStore waiting;
  private final PointSearches searches;
  private final MailDrop mail;
  private final Activity activity;
  private final Supplier<Estate> estate;
  private final Clock clock;

  public FollowUps(
      ProgrammeStore programmes,
      RunStore runs,
      WaitingStore waiting,
      PointSearches searches,
      MailDrop mail,
      Activity activity,
      Supplier<Estate> estate,
      Clock clock) {
    this.programmes = programmes;
    this.runs = runs;
    this.waiting = waiting;
    this.searches = searches;
    this.mail = mail;
    this.activity = activity;
    this.estate = estate;
    this.clock = clock;
  }

  /**
   * Queues anew what said nothing about the data, as often as its programme allows. A drill that failed is never
   * tried until it passes.
   *
   * @return how many
   */
  public int tryAgain(Instant now) {
    int queued = 0;
    for (String id : waiting.toTryAgain(now.minus(AT_MOST))) {
      Run run = runs.find(id).orElseThrow();
      Programme programme = programmes.find(run.programme()).orElse(null);
      RunNeeds needs = waiting.needs(id).orElseThrow();
      if (programme != null && due(programme.onFailure(), run, needs, now)) {
        again(programme, run, needs, now);
        queued++;
      }
    }
    return queued;
  }

  private static boolean due(Programme.OnFailure says, Run run, RunNeeds needs, Instant now) {
    return needs.attempt() < says.tries() && !run.endedAt().plus(says.pause()).isAfter(now);
  }

  private void again(Programme programme, Run run, RunNeeds needs, Instant now) {
    int attempt = needs.attempt() + 1;
    RunOrder order = RunOrder.asking(
        run,
        run.checksAsked(),
        "try " + attempt + " of " + programme.onFailure().tries() + " after: " + run.sentence());
    runs.queue(
        order,
        run.reaches(),
        needs.again(now.plus(MAY_WAIT)),
        programme.key(),
        programme.name(),
        now);
  }

  /** A run changed; nothing is done unless it is one of a programme and has ended. */
  public void changed(String id) {
    Run run =
        runs.find(id).filter(Run::ended).filter(r -> r.programme() != null).orElse(null);
    if (run == null) {
      return;
    }
    programmes.find(run.programme()).ifPresent(programme -> {
      if (run.fact().failed() && programme.onFailure().look()) {
        look(programme, run);
      }
      tell(programme, run);
    });
  }

  private void look(Programme programme, Run run) {
    if (searches.underWay(run.resource())) {
      return;
    }
    try {
      searches.begin(
          run.resource(),
          null,
          run.method(),
          null,
          programme.name(),
          "the drill of " + run.point() + " failed");
    } catch (Refused e) {
      LOG.info("the last good point of {} is not looked for: {}", run.resource(), e.getMessage());
    }
  }

  private void tell(Programme programme, Run run) {
    boolean passed = run.fact().passed();
    boolean told =
        programme.tell() == Programme.Tell.EVERYTHING && (passed || run.fact().failed())
            || programme.tell() == Programme.Tell.FAILURES && run.fact().failed();
    if (!told) {
      return;
    }
    Estate facts = estate.get();
    Resource resource = facts.resource(run.resource());
    String name = resource == null ? run.resource() : resource.name();
    String owner = Optional.ofNullable(resource)
        .map(r -> facts.workload(r.workload()))
        .map(Workload::owner)
        .orElse("");
    if (!owner.contains("@")) {
      activity.record(
          programme.name(),
          "nobody was told",
          name,
          (owner.isBlank()
                  ? "its workload has no owner"
                  : "its owner '" + owner + "' is no mail address")
              + "; the drill " + (passed ? "passed: " : "failed: ") + run.sentence());
      return;
    }
    send(programme, run, owner, name, passed);
  }

  private void send(Programme programme, Run run, String owner, String name, boolean passed) {
    String what = "The drill of " + name + (passed ? " passed" : " failed");
    try {
      mail.leave(
          owner,
          what,
          what + " (" + programme.name() + ", point " + run.point() + ", by "
              + run.method().words() + "): " + run.sentence() + "\n",
          null,
          clock.instant());
    } catch (IOException | hardproof.core.wording.WrongValue e) {
      LOG.warn("{} could not be told of a drill of {}: {}", owner, name, e.getMessage());
    }
  }
}
