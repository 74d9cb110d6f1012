package hardproof.server.evidence;

import hardproof.core.estate.Selector;
import hardproof.core.proof.Verdict;
import hardproof.proving.bags.BagReader;
import hardproof.server.facts.SelectorJson;
import hardproof.server.ledger.TreeHead;
import hardproof.server.people.PeopleStore;
import hardproof.server.people.Person;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestPart;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

/** Making, listing, reading, checking and downloading packs. */
@RestController
@RequestMapping("/api")
class PackController {
  private final PackStore packs;
  private final PackBuilder builder;
  private final Evaluations evaluations;
  private final PeopleStore people;
  private final PackDesk desk;

  PackController(
      PackStore packs,
      PackBuilder builder,
      Evaluations evaluations,
      PeopleStore people,
      PackDesk desk) {
    this.packs = packs;
    this.builder = builder;
    this.evaluations = evaluations;
    this.people = people;
    this.desk = desk;
  }

  /**
   * What a pack is to hold.
   *
   * @param scope a selector as JSON; empty for everything
   * @param asAt null for now
   * @param from begin of its period; null for a quarter of a year before
   * @param knownAt then, now or an instant; null for what was known then
   */
  record PackOrder(
      @Nullable String title,
      @Nullable String scope,
      @Nullable Instant asAt,
      @Nullable String knownAt,
      @Nullable Instant from) {}

  /** What it would hold. */
  record PackPreview(
      String title,
      String scope,
      Instant asAt,
      Instant knownAt,
      int workloads,
      int proven,
      int resources,
      int points,
      int drills,
      Map<String, Integer> counts) {}

  @Operation(summary = "Evidence packs that were issued")
  @GetMapping("/packs")
  List<PackStore.Issued> all() {
    return packs.all();
  }

  @Operation(summary = "What a pack would hold")
  @PostMapping("/packs/preview")
  PackPreview preview(@RequestBody PackOrder order, Principal person) {
    PackBuilder.Contents c = contents(order, person);
    Map<String, Integer> counts = new java.util.LinkedHashMap<>();
    c.evaluation().counts().forEach((v, n) -> counts.put(v.code(), n));
    return new PackPreview(
        c.title(),
        c.scope().words(),
        c.facts().asAt(),
        c.facts().knownAt(),
        c.evaluation().workloads().size(),
        c.evaluation().counts().getOrDefault(Verdict.PROVEN, 0),
        c.facts().facts().resources().size(),
        Math.toIntExact(c.facts().estate().pointCount()),
        c.facts().facts().drills().size(),
        counts);
  }

  /** With the words it will have, but for the head of the ledger. */
  @Operation(summary = "The report of a pack before it is issued")
  @GetMapping("/packs/preview/report")
  ResponseEntity<String> read(@ParameterObject PackOrder order, Principal person) {
    return page(builder.reportHtml(contents(order, person)));
  }

  /** Begins to make a pack; what came of it is in {@code /api/pack-tasks/ID}. */
  @Operation(summary = "Begin to make a pack")
  @PostMapping("/packs")
  @ResponseStatus(HttpStatus.ACCEPTED)
  PackDesk.PackTask make(@RequestBody PackOrder order, Principal person) {
    PackBuilder.Contents contents = contents(order, person);
    contents.requireSomething();
    return desk.make(contents);
  }

  private PackBuilder.Contents contents(PackOrder order, Principal person) {
    Selector scope = SelectorJson.asked(order.scope());
    String title =
        order.title() == null || order.title().isBlank() ? "Recoverability" : order.title();
    String madeBy = people.find(person.getName()).map(Person::fullName).orElse(person.getName());
    return builder.contents(
        evaluations.at(new AsAt(order.asAt(), order.knownAt())),
        title,
        scope,
        madeBy,
        order.from());
  }

  @Operation(summary = "A pack as a file")
  @GetMapping("/packs/{id}/file")
  ResponseEntity<Resource> download(@PathVariable long id) {
    PackStore.Issued pack = packs.find(id);
    Path file = packs.file(pack);
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(pack.name() + ".zip")
                .build()
                .toString())
        .contentType(MediaType.parseMediaType("application/zip"))
        .body(new FileSystemResource(file));
  }

  /** The report out of the pack's own zip, as whoever gets it will see it. */
  @Operation(summary = "The report of a pack as a page")
  @GetMapping("/packs/{id}/report")
  ResponseEntity<String> report(@PathVariable long id) throws IOException {
    Path file = packs.file(packs.find(id));
    String html = new String(file(file, PackBuilder.REPORT_PAGE), StandardCharsets.UTF_8);
    return page(html);
  }

  private static ResponseEntity<String> page(String html) {
    return ResponseEntity.ok()
        .header(
            "Content-Security-Policy",
            "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'; sandbox")
        .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
        .body(html);
  }

  @Operation(summary = "The report of a pack as PDF/A")
  @GetMapping("/packs/{id}/report.pdf")
  ResponseEntity<byte[]> pdf(@PathVariable long id) throws IOException {
    PackStore.Issued pack = packs.find(id);
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.inline().filename(pack.name() + ".pdf").build().toString())
        .contentType(MediaType.APPLICATION_PDF)
        .body(file(packs.file(pack), PackBuilder.REPORT_PDF));
  }

  private static byte[] file(Path pack, String name) throws IOException {
    byte[] file = BagReader.open(pack).file("data/" + name);
    if (file == null) {
      throw new Refused("The pack's file holds no " + name
          + ": it was changed, or an earlier version made it. Make the pack again.");
    }
    return file;
  }

  /** Begins to check an issued pack. */
  @Operation(summary = "Begin to verify a pack")
  @PostMapping("/packs/{id}/verification")
  @ResponseStatus(HttpStatus.ACCEPTED)
  PackDesk.PackTask verify(@PathVariable long id) {
    return desk.verify(id);
  }

  /**
   * Begins to check a pack of whoever, also of another installation. Nothing of it is kept.
   *
   * @param head a head of the ledger that somebody kept, as a file
   */
  @Operation(summary = "Begin to verify a pack that is handed in; it is not kept")
  @PostMapping(path = "/packs/verification", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
  @ResponseStatus(HttpStatus.ACCEPTED)
  PackDesk.PackTask verifyDropped(
      @RequestPart MultipartFile pack, @RequestPart(required = false) @Nullable MultipartFile head)
      throws IOException {
    TreeHead kept = head == null || head.isEmpty() ? null : kept(head);
    Path file = packs.dropped();
    try {
      pack.transferTo(file);
    } catch (IOException | RuntimeException e) {
      Files.deleteIfExists(file);
      throw e;
    }
    return desk.verifyDropped(file, kept);
  }

  private static TreeHead kept(MultipartFile head) throws IOException {
    try {
      return TreeHead.read(new String(head.getBytes(), StandardCharsets.UTF_8));
    } catch (IllegalArgumentException e) {
      throw new Refused(head.getOriginalFilename()
          + " holds no head of a ledger as Evidence gives it out. Drop the file that was downloaded"
          + " there, or the pack alone.");
    }
  }

  @Operation(summary = "Stop a pack that is being made; nothing of it is kept")
  @DeleteMapping("/pack-tasks/{id}")
  PackDesk.PackTask cancel(@PathVariable String id) {
    return desk.cancel(id);
  }

  @Operation(summary = "How far a pack is")
  @GetMapping("/pack-tasks/{id}")
  PackDesk.PackTask task(@PathVariable String id) {
    return desk.task(id);
  }
}
