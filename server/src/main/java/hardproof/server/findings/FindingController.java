package hardproof.server.findings;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.criteria.FactRef;
import hardproof.core.estate.Selector;
import hardproof.core.findings.About;
import hardproof.core.findings.Finding;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import hardproof.server.delivery.MailDrop;
import hardproof.server.facts.SelectorJson;
import hardproof.server.feeds.FeedStore;
import hardproof.server.findings.FindingDesk.Grouping;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.runs.WaitingStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What is not as it should be, and what people do about it. */
@RestController
@RequestMapping("/api")
class FindingController {
  private static final int PAGE_MOST = 500;

  private final Evaluations evaluations;
  private final FindingDesk desk;
  private final FindingLog log;
  private final MailDrop mail;
  private final Clock clock;

  FindingController(
      Evaluations evaluations,
      FeedStore feeds,
      FindingLog log,
      NeverRenewed neverRenewed,
      WaitingStore waiting,
      MailDrop mail,
      Clock clock) {
    this.evaluations = evaluations;
    this.log = log;
    this.desk = new FindingDesk(log, feeds, neverRenewed, waiting);
    this.mail = mail;
    this.clock = clock;
  }

  /**
   * A page of findings.
   *
   * @param open all that are open, whatever is asked for; likewise {@code excepted}, {@code
   *     unprotected}
   * @param causes that lie behind the open ones: what follows from another is counted with it
   * @param total those that match what is asked for
   */
  record FindingsPage(
      Instant asAt,
      int open,
      int excepted,
      int unprotected,
      int causes,
      int total,
      List<FindingGroup> groups,
      List<FindingRow> rows) {}

  record FindingGroup(
      String value,
      String title,
      int count,
      boolean unprotected,
      @Nullable Integer tier) {}

  /** What is wrong. */
  record Named(String code, String group, String title) {}

  /** A finding. {@code opened} absent when it was not written down yet. */
  record FindingRow(
      String key,
      @JsonUnwrapped Named concern,
      @JsonUnwrapped About about,
      boolean unprotected,
      String sentence,
      @Nullable String measured,
      @Nullable String demanded,
      List<FactRef> facts,
      @Nullable String exception,
      @Nullable Instant opened,
      FindingLog.@Nullable Look look) {}

  @Operation(summary = "A page of findings, grouped and filtered")
  @GetMapping("/findings")
  FindingsPage findings(
      @ParameterObject AsAt asAt,
      @RequestParam(required = false) String state,
      @RequestParam(required = false) String group,
      @RequestParam(required = false) String in,
      @RequestParam(required = false) String search,
      @RequestParam(required = false) Integer tier,
      @RequestParam(required = false) String selector,
      @RequestParam(required = false) String after,
      @RequestParam(defaultValue = "200") int limit) {
    Evaluated evaluated = evaluations.at(asAt);
    Selector which = SelectorJson.asked(selector);
    FindingDesk.Page page = desk.page(
        evaluated,
        new FindingDesk.Query(
            state,
            group == null || group.isBlank() ? null : grouping(group),
            in,
            search,
            tier,
            which.equals(Selector.EVERYTHING) ? null : evaluated.estate().matching(which),
            after,
            Math.max(1, Math.min(limit, PAGE_MOST)),
            asAt.asAt() != null));
    return new FindingsPage(
        evaluated.estate().asAt(),
        page.open(),
        page.excepted(),
        page.unprotected(),
        desk.causes(evaluated),
        page.total(),
        page.groups().stream()
            .map(g -> new FindingGroup(g.value(), g.title(), g.count(), g.unprotected(), g.tier()))
            .toList(),
        page.rows().stream().map(f -> row(f, page.written())).toList());
  }

  /** One finding, wherever in the list it stands. */
  @Operation(summary = "One finding")
  @GetMapping("/finding")
  FindingRow finding(@RequestParam String key, @ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    return desk.withKeys(evaluated, List.of(key)).stream()
        .findFirst()
        .map(f -> row(f, desk.written(evaluated, asAt.asAt() != null)))
        .orElseThrow(() -> new NotFound(
            "There is no such finding " + (asAt.asAt() == null ? "any more" : "as at this instant")
                + ": what it said is as it should be, or what it was about is not there."));
  }

  private static Grouping grouping(String text) {
    try {
      return Grouping.valueOf(text.toUpperCase(Locale.ROOT));
    } catch (IllegalArgumentException e) {
      throw new WrongValue(
          "findings can be grouped by resource, criterion, owner, policy, site or workload, not by '"
              + text + "'",
          e);
    }
  }

  private static FindingRow row(Finding f, FindingDesk.Written written) {
    return new FindingRow(
        f.key(),
        new Named(f.code(), f.concern().group(), f.concern().title()),
        f.about(),
        f.unprotected(),
        f.sentence(),
        f.measured(),
        f.demanded(),
        f.facts(),
        f.exception(),
        written.opened().get(f.key()),
        written.look(f));
  }

  /** Everything that happened to one finding, oldest first. */
  @Operation(summary = "What happened to a finding, oldest first")
  @GetMapping("/finding-events")
  List<FindingLog.Event> events(@RequestParam String finding) {
    return log.events(finding);
  }

  record Looks(
      @NotEmpty List<String> findings,
      @NotNull @Size(max = 500) String note) {}

  @Operation(summary = "Note that findings were looked at")
  @PostMapping("/findings/looks")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void look(@Valid @RequestBody Looks looks, Principal person) {
    log.look(looks.findings(), looks.note().strip(), person.getName(), clock.instant());
  }

  record Selection(@NotEmpty List<String> findings) {}

  /** The findings as a table to hand to somebody. */
  @Operation(summary = "Findings as a CSV table")
  @PostMapping(path = "/findings/table", produces = "text/csv")
  ResponseEntity<String> table(@Valid @RequestBody Selection selection) {
    return ResponseEntity.ok()
        .contentType(new MediaType("text", "csv", java.nio.charset.StandardCharsets.UTF_8))
        .header("Content-Disposition", "attachment; filename=\"findings.csv\"")
        .body(FindingTable.csv(chosen(selection.findings())));
  }

  /** To whom findings go, and what is said with them. */
  record HandOver(
      @NotEmpty List<String> findings,
      @NotBlank String to,
      @NotNull @Size(max = 2000) String note) {}

  record HandedOver(String file, int findings) {}

  @Operation(summary = "Hand findings over by mail")
  @PostMapping("/findings/hand-overs")
  @ResponseStatus(HttpStatus.CREATED)
  HandedOver handOver(@Valid @RequestBody HandOver order, Principal person) throws IOException {
    List<Finding> chosen = chosen(order.findings());
    StringBuilder text = text(order, person, chosen);
    Instant now = clock.instant();
    String file = left(order, chosen, text, now);
    log.look(
        chosen.stream().map(Finding::key).toList(),
        "handed over to " + order.to().strip(),
        person.getName(),
        now);
    return new HandedOver(file, chosen.size());
  }

  private static StringBuilder text(HandOver order, Principal person, List<Finding> chosen) {
    StringBuilder text = new StringBuilder();
    if (!order.note().isBlank()) {
      text.append(order.note().strip()).append("\r\n\r\n");
    }
    for (Finding f : chosen) {
      text.append("- ")
          .append(f.about().name())
          .append(", ")
          .append(f.concern().title())
          .append(": ");
      text.append(f.sentence()).append("\r\n");
    }
    text.append("\r\nHanded over by ").append(person.getName()).append(".\r\n");
    return text;
  }

  private String left(HandOver order, List<Finding> chosen, StringBuilder text, Instant now)
      throws IOException {
    return mail.leave(
        order.to().strip(),
        Wording.count(chosen.size(), "finding", "findings") + " for you",
        text.toString(),
        FindingTable.csv(chosen),
        now);
  }

  private List<Finding> chosen(List<String> keys) {
    List<Finding> chosen = desk.withKeys(evaluations.now(), keys);
    if (chosen.isEmpty()) {
      throw new Refused("None of these findings is there any more; look at the list again.");
    }
    return chosen;
  }
}
