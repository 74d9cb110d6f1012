package hardproof.server;

import hardproof.core.facts.Estate;
import hardproof.server.criteria.StandardStore;
import hardproof.server.drills.DrillOrders;
import hardproof.server.drills.ProgrammeStore;
import hardproof.server.drills.Programmes;
import hardproof.server.drills.RunQueue;
import hardproof.server.drills.RunStore;
import hardproof.server.drills.SqlCheckStore;
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
import hardproof.server.people.PeopleStore;
import hardproof.server.proof.Evaluations;
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
  SqlCheckStore sqlCheckStore(Installation i) {
    return i.sqlChecks();
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
