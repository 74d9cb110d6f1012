package hardproof.server.web;

import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.servers.Server;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The OpenAPI description; {@link RecordSchemas} makes it exact. */
@Configuration(proxyBeanMethods = false)
class OpenApiConfig {
  @Bean
  OpenAPI openApi() {
    return new OpenAPI()
        .info(new Info()
            .title("Hard Proof")
            .version("1")
            .description("Which workloads are actually recoverable, and the proof of it."))
        .servers(List.of(new Server().url("/")));
  }
}
