package hardproof.server.drills;

import hardproof.core.drills.Method;
import hardproof.proving.checks.Check;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.drills.DrillOptions;
import hardproof.server.Estate;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.standins.artifacts.Artifact;
import hardproof.standins.artifacts.Machines;
import java.io.IOException;
import java.nio.file.Files;
import java.time.Duration;
import java.util.List;

/** Drills of the test estate, queued and carried out as by a worker. */
public final class DrillWith {
  private final Estate estate;

  public DrillWith(Estate estate) {
    this.estate = estate;
  }

  public Run run(String resource, Method method, Duration hold, List<Check> checks) {
    return run(resource, null, method, hold, checks, null);
  }

  public Run run(
      String resource,
      String point,
      Method method,
      Duration hold,
      List<Check> checks,
      DrillOptions options) {
    String id = queue(resource, point, method, hold, checks, options);
    estate.installation.queue().runOne();
    return find(id);
  }

  public String queue(
      String resource,
      String point,
      Method method,
      Duration hold,
      List<Check> checks,
      DrillOptions options) {
    var facts = estate.installation.evaluations().now().estate();
    RunOrder order = estate
        .installation
        .orders()
        .complete(
            facts, new RunOrder(resource, point, null, method, checks, "a test", hold, options));
    return estate
        .installation
        .runs()
        .queue(
            order,
            estate.installation.orders().plan(facts, order).reaches(),
            RunNeeds.of(0, 0),
            null,
            "tester",
            estate.clock.instant());
  }

  /** Puts a machine with one point into the estate. */
  public void machine(String key, Machines.Fate fate) throws IOException {
    Artifact disk = Machines.disk(key, fate, 5);
    Files.write(estate.store().resolve(key + ".img.gz"), disk.bytes());
    Files.write(estate.store().resolve(key + ".img.gz.blocks"), disk.manifest());
    estate.take(
        "resources.csv",
        "key,name,kind,workload,first_seen\n" + key + "," + key
            + ",virtual-machine,w,2026-10-01T00:00:00Z\n");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome,size\n" + key + "-1," + key
            + ",full,2026-11-24T05:00:00Z,2026-11-24T05:30:00Z,complete," + disk.bytes().length
            + "\n");
    estate.take(
        "copies.csv",
        "point,store,finished,state,format,place,sha256,manifest\n" + key
            + "-1,near,2026-11-24T05:40:00Z,present,img.gz," + key + ".img.gz,"
            + Sha256.of(disk.bytes()) + "," + Sha256.of(disk.manifest()) + "\n");
  }

  public Run find(String id) {
    return estate.installation.runs().find(id).orElseThrow();
  }
}
