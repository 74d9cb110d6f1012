package hardproof.server;

import hardproof.core.facts.Estate;
import hardproof.server.feeds.Uploads;
import hardproof.server.installation.Installation;
import hardproof.server.proof.Evaluations;
import java.io.IOException;
import java.util.function.Supplier;
import org.springframework.boot.SpringApplication;
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
  /** One whose beans are the parts of an installation; it closes none of them. */
  public static SpringApplication over(Installation installation) {
    SpringApplication application = new SpringApplication(ServerApplication.class);
    application.setRegisterShutdownHook(false);
    application.addInitializers(context -> {
      var beans = context.getBeanFactory();
      beans.registerSingleton("installation", installation);
      for (Object part : installation.parts()) {
        beans.registerSingleton(part.getClass().getName(), part);
      }
    });
    return application;
  }

  @Bean
  Supplier<Estate> estate(Evaluations evaluations) {
    return () -> evaluations.now().estate();
  }

  @Bean
  Uploads uploads(Installation i) throws IOException {
    return new Uploads(i.folder().uploads());
  }
}
