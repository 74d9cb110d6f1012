package hardproof.server.installation;

import hardproof.server.alerts.AlertDelivery;
import hardproof.server.alerts.AlertDesk;
import hardproof.server.alerts.AlertStore;
import hardproof.server.alerts.MessageStore;
import hardproof.server.alerts.Watch;
import hardproof.server.alerts.WatchStore;
import hardproof.server.delivery.FolderOutlet;
import hardproof.server.delivery.HookOutlet;
import hardproof.server.delivery.MailDrop;
import hardproof.server.delivery.MailOutlet;
import hardproof.server.delivery.Outlet;
import hardproof.server.evidence.PackBuilder;
import hardproof.server.evidence.PackStore;
import hardproof.server.findings.FindingLog;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.ledger.LedgerHeads;
import hardproof.server.outside.EventSigner;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.programmes.Renewing;
import hardproof.server.proof.Evaluations;
import hardproof.server.reports.Digest;
import hardproof.server.reports.IssuedReports;
import hardproof.server.reports.Report;
import hardproof.server.reports.ReportBuilder;
import hardproof.server.reports.ReportDelivery;
import hardproof.server.reports.ReportDesk;
import hardproof.server.reports.ReportStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.storage.DataFolder;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.util.Map;

/** What tells those who must know: alerts as they open and close, reports as they are due. */
final class TellingParts {
  private final Installation installation;
  private final Database database;
  private final AlertStore alerts;

  /** Needs everything that is told of. */
  TellingParts(Installation installation, MailDrop drop) throws IOException {
    this.installation = installation;
    this.database = installation.database();
    this.alerts = part(new AlertStore(database));
    DataFolder folder = installation.folder();
    Outlet mail = MailOutlet.of(folder.mailSettings(), drop);
    Outlet hooks = new HookOutlet(part(OutsideHosts.class), part(EventSigner.class));
    alerts(Map.of(Watch.How.MAIL, mail, Watch.How.WEBHOOK, hooks));
    reports(Map.of(
        Report.How.FOLDER,
        new FolderOutlet(folder.outbox()),
        Report.How.MAIL,
        mail,
        Report.How.WEBHOOK,
        hooks));
  }

  private void alerts(Map<Watch.How, Outlet> outlets) {
    MessageStore messages = part(new MessageStore(database));
    WatchStore watches = part(new WatchStore(database));
    part(new AlertDesk(
        database,
        alerts,
        messages,
        part(LedgerDesk.class),
        part(FindingLog.class),
        installation.clock()));
    part(new AlertDelivery(
        alerts,
        watches,
        messages,
        outlets,
        () -> installation.evaluations().now().estate()));
  }

  private void reports(Map<Report.How, Outlet> outlets) {
    ReportStore store = part(new ReportStore(database));
    IssuedReports issued =
        part(new IssuedReports(database, installation.folder().reports()));
    Digest digest = new Digest(alerts, part(FindingLog.class), part(ScreenStore.class));
    ReportBuilder builder = part(new ReportBuilder(part(Renewing.class), digest));
    PackStore packs = part(PackStore.class);
    ReportDesk desk = part(new ReportDesk(
        store,
        issued,
        builder,
        part(Evaluations.class),
        packs,
        part(PackBuilder.class),
        part(LedgerDesk.class),
        part(LedgerHeads.class)));
    part(new ReportDelivery(issued, packs, outlets));
    part(AlertDesk.class).also(desk::causes);
  }

  private <T> T part(T part) {
    return installation.part(part);
  }

  private <T> T part(Class<T> type) {
    return installation.part(type);
  }
}
