package hardproof.server;

import hardproof.core.facts.Estate;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.drills.Engines;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.activity.Activity;
import hardproof.server.criteria.StandardStore;
import hardproof.server.drills.DrillOrders;
import hardproof.server.drills.RunQueue;
import hardproof.server.estate.FactStore;
import hardproof.server.estate.OwnFacts;
import hardproof.server.evidence.PackBuilder;
import hardproof.server.evidence.PackDesk;
import hardproof.server.evidence.PackStore;
import hardproof.server.feeds.FeedStore;
import hardproof.server.feeds.Importer;
import hardproof.server.feeds.MappingStore;
import hardproof.server.feeds.Uploads;
import hardproof.server.findings.FindingLog;
import hardproof.server.findings.MailDrop;
import hardproof.server.installation.Installation;
import hardproof.server.integrity.SweepStore;
import hardproof.server.integrity.Sweeps;
import hardproof.server.outside.EventSigner;
import hardproof.server.outside.OutsideChecks;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.people.PeopleStore;
import hardproof.server.policies.ExceptionDesk;
import hardproof.server.programmes.ProgrammeStore;
import hardproof.server.programmes.Programmes;
import hardproof.server.proof.Evaluations;
import hardproof.server.runs.CheckStore;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.searches.PointSearches;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.time.Clock;
import java.util.function.Supplier;
import org.springframework.boot.SpringBootConfiguration;
import org.springframework.boot.autoconfigure.EnableAutoConfiguration;
import org.springframework.boot.jdbc.autoconfigure.DataSourceAutoConfiguration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.ComponentScan;

/** The web application over an {@link Installation}, which is given to it and outlives it. */
@SpringBootConfiguration(proxyBeanMethods = false)
@EnableAutoConfiguration(exclude = DataSourceAutoConfiguration.class)
@ComponentScan("hardproof.server")
public class ServerApplication {
  @Bean
  Clock clock(Installation i) {
    return i.clock();
  }

  @Bean
  Evaluations evaluations(Installation i) {
    return i.evaluations();
  }

  @Bean
  Supplier<Estate> estate(Evaluations evaluations) {
    return () -> evaluations.now().estate();
  }

  @Bean
  StandardStore standardStore(Installation i) {
    return i.standards();
  }

  @Bean
  OwnFacts ownFacts(Installation i) {
    return i.ownFacts();
  }

  @Bean
  ExceptionDesk exceptionDesk(Installation i) {
    return i.exceptionDesk();
  }

  @Bean
  OutsideHosts outsideHosts(Installation i) {
    return i.outsideHosts();
  }

  @Bean
  Activity activity(Installation i) {
    return i.activity();
  }

  @Bean
  FindingLog findingLog(Installation i) {
    return i.findingLog();
  }

  @Bean
  MappingStore mappingStore(Installation i) {
    return i.mappings();
  }

  @Bean
  MailDrop mailDrop(Installation i) {
    return new MailDrop(i.folder().mailDrop());
  }

  @Bean
  FactStore factStore(Installation i) {
    return i.facts();
  }

  @Bean
  FeedStore feedStore(Installation i) {
    return i.feeds();
  }

  @Bean
  Importer importer(Installation i) {
    return i.importer();
  }

  @Bean
  Uploads uploads(Installation i) throws IOException {
    return new Uploads(i.folder().uploads());
  }

  @Bean
  RunStore runStore(Installation i) {
    return i.runs();
  }

  @Bean
  CheckStore checkStore(Installation i) {
    return i.checks();
  }

  @Bean
  ScreenStore screenStore(Installation i) {
    return i.screens();
  }

  @Bean(destroyMethod = "")
  OutsideChecks outsideChecks(Installation i) {
    return i.outside();
  }

  @Bean
  EventSigner eventSigner(Installation i) {
    return i.signer();
  }

  @Bean
  Engines engines(Installation i) {
    return i.engines();
  }

  @Bean
  Sandboxes sandboxes(Installation i) {
    return i.sandboxes();
  }

  @Bean
  DrillRunner drillRunner(Installation i) {
    return i.runner();
  }

  @Bean
  DrillOrders drillOrders(Installation i) {
    return i.orders();
  }

  @Bean(destroyMethod = "")
  RunQueue runQueue(Installation i) {
    return i.queue();
  }

  @Bean
  PointSearches pointSearches(Installation i) {
    return i.searches();
  }

  @Bean
  Database database(Installation i) {
    return i.database();
  }

  @Bean
  SweepStore sweepStore(Installation i) {
    return i.sweepStore();
  }

  @Bean(destroyMethod = "")
  Sweeps sweeps(Installation i) {
    return i.sweeps();
  }

  @Bean
  ProgrammeStore programmeStore(Installation i) {
    return i.programmeStore();
  }

  @Bean
  Programmes programmes(Installation i) {
    return i.programmes();
  }

  @Bean
  PackBuilder packBuilder(Installation i) {
    return i.packBuilder();
  }

  @Bean
  PackStore packStore(Installation i) {
    return i.packs();
  }

  @Bean
  PackDesk packDesk(Installation i) {
    return new PackDesk(i.packs(), i.clock());
  }

  @Bean
  PeopleStore peopleStore(Installation i) {
    return i.people();
  }
}
