package hardproof.server.reports;

import hardproof.core.reports.ReportKind;
import hardproof.server.delivery.Outlet;
import hardproof.server.delivery.Parcel;
import hardproof.server.delivery.Tries;
import hardproof.server.evidence.PackStore;
import hardproof.server.outside.CloudEvent;
import hardproof.server.reports.IssuedReport.IssuedFile;
import hardproof.server.reports.IssuedReport.Sent;
import hardproof.server.web.NotFound;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Takes reports to those they are for; again with growing waits where nobody takes one. */
public final class ReportDelivery {
  /** Mail servers refuse more; whoever gets the mail is told where to fetch it. */
  static final long MOST_IN_MAIL = 10_000_000;

  private final IssuedReports issued;
  private final PackStore packs;
  private final Map<Report.How, Outlet> outlets;
  private volatile String address = "";

  public ReportDelivery(IssuedReports issued, PackStore packs, Map<Report.How, Outlet> outlets) {
    this.issued = issued;
    this.packs = packs;
    this.outlets = outlets;
  }

  /** Where others find this server. */
  public void at(String found) {
    address = found;
  }

  /** Tries what is due. */
  public synchronized void run(Instant now) {
    issued.due(now).forEach((sent, report) -> deliver(sent, report, now));
  }

  private void deliver(Sent sent, IssuedReport report, Instant now) {
    try {
      outlets.get(sent.how()).deliver(parcel(sent, report, now), now);
      issued.ended(sent, IssuedReport.State.SENT, null, now);
    } catch (Outlet.NotTaken e) {
      notTaken(sent, e.getMessage(), now);
    } catch (IOException | NotFound e) {
      notTaken(sent, "its files can't be read: " + e.getMessage(), now);
    }
  }

  private void notTaken(Sent sent, String problem, Instant now) {
    Tries.next(sent.tries(), now)
        .ifPresentOrElse(
            next -> issued.later(sent, problem, next),
            () -> issued.ended(sent, IssuedReport.State.FAILED, problem, now));
  }

  /**
   * Where a file of a report lies.
   *
   * @throws NotFound when it was removed
   */
  Path file(IssuedReport report, String name) {
    return report.pack() == null
        ? issued.file(report, name)
        : packs.file(packs.find(report.pack()));
  }

  private Parcel parcel(Sent sent, IssuedReport report, Instant now) throws IOException {
    String link = address + "/evidence?tab=reports&issued=" + report.id();
    long bytes = report.files().stream().mapToLong(IssuedFile::bytes).sum();
    boolean tooMuch = sent.how() == Report.How.MAIL && bytes > MOST_IN_MAIL;
    List<Parcel.Enclosed> files = new ArrayList<>();
    Map<String, String> sums = new TreeMap<>();
    for (IssuedFile f : report.files()) {
      sums.put(f.name(), f.sha256());
      if (!tooMuch) {
        files.add(new Parcel.Enclosed(f.name(), f.mediaType(), file(report, f.name())));
      }
    }
    String body = report.words()
        + (tooMuch ? "\nIts files are too much for a mail; fetch them there.\n" : "")
        + "\n" + link + "\n";
    String id = "report-" + report.id() + "-" + sent.id();
    CloudEvent.IssuedTold told = new CloudEvent.IssuedTold(
        report.kind().code(),
        report.title(),
        report.scope(),
        report.asAt(),
        link,
        sums,
        head(report));
    return new Parcel(
        id, sent.recipient(), report.title(), body, CloudEvent.report(id, told, now), files);
  }

  private @Nullable String head(IssuedReport report) throws IOException {
    return report.kind() == ReportKind.HEAD && !report.files().isEmpty()
        ? Files.readString(file(report, report.files().get(0).name()))
        : null;
  }
}
