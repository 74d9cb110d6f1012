package hardproof.server.web;

import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.servers.Server;
import java.lang.annotation.Annotation;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.PropertyCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The OpenAPI description, exact about which fields are always there. */
@Configuration(proxyBeanMethods = false)
class OpenApiConfig {
  private static final String ABSENT = "x-may-be-absent";

  /** Records of the core, which knows nothing of REST. */
  private static final Map<String, List<String>> ABSENT_IN_CORE =
      Map.of("Rejection", List.of("field", "value"));

  @Bean
  OpenAPI openApi() {
    return new OpenAPI()
        .info(new Info()
            .title("Hard Proof")
            .version("1")
            .description("Which workloads are actually recoverable, and the proof of it."))
        .servers(List.of(new Server().url("/")));
  }

  @Bean
  PropertyCustomizer markAbsent() {
    return (property, type) -> {
      Annotation[] annotations = type.getCtxAnnotations();
      if (annotations != null
          && Arrays.stream(annotations).anyMatch(MayBeAbsent.class::isInstance)) {
        property.addExtension(ABSENT, true);
      }
      return property;
    };
  }

  @Bean
  OpenApiCustomizer requireTheRest() {
    return api -> api.getComponents().getSchemas().forEach(OpenApiConfig::requireTheRest);
  }

  @SuppressWarnings({"rawtypes", "unchecked"})
  private static void requireTheRest(String name, Schema schema) {
    Map<String, Schema> properties = schema.getProperties();
    if (properties == null) {
      return;
    }
    List<String> required = new ArrayList<>();
    properties.forEach((field, property) -> {
      boolean absent =
          property.getExtensions() != null && property.getExtensions().remove(ABSENT) != null;
      if (!absent && !ABSENT_IN_CORE.getOrDefault(name, List.of()).contains(field)) {
        required.add(field);
      }
    });
    schema.setRequired(required);
  }
}
