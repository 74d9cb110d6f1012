package hardproof.server.web;

import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.IntegerSchema;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.media.StringSchema;
import io.swagger.v3.oas.models.responses.ApiResponse;
import io.swagger.v3.oas.models.responses.ApiResponses;
import io.swagger.v3.oas.models.servers.Server;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.OperationCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.method.HandlerMethod;

/** The OpenAPI description: what is answered when it is not what was asked for ({@link Problems}) stands in it too. */
@Configuration(proxyBeanMethods = false)
class OpenApiConfig {
  private static final String PROBLEM = "Problem";
  private static final String PROBLEM_JSON = "application/problem+json";

  @Bean
  OpenAPI openApi() {
    return new OpenAPI()
        .info(new Info()
            .title("Hard Proof")
            .version("1")
            .description("Which workloads are actually recoverable, and the proof of it."))
        .servers(List.of(new Server().url("/")));
  }

  /** RFC 9457, section 3.1, as far as it is used here. */
  @Bean
  OpenApiCustomizer problemSchema() {
    Schema<?> problem = new Schema<>()
        .type("object")
        .description("What went wrong (RFC 9457); detail is a sentence a person can act on.")
        .addProperty("type", new StringSchema())
        .addProperty("title", new StringSchema())
        .addProperty("status", new IntegerSchema())
        .addProperty("detail", new StringSchema())
        .addProperty("instance", new StringSchema());
    problem.setRequired(List.of("status", "detail"));
    return api -> api.getComponents().addSchemas(PROBLEM, problem);
  }

  @Bean
  OperationCustomizer named() {
    return (operation, method) -> {
      String subject = method.getBeanType().getSimpleName().replace("Controller", "");
      operation.setOperationId(subject + "." + method.getMethod().getName());
      operation.setTags(List.of(subject));
      problems(operation, method)
          .forEach((status, when) -> operation
              .getResponses()
              .addApiResponse(Integer.toString(status.value()), answer(when)));
      return operation;
    };
  }

  /** Signing out is not a controller's: the security filter answers it. */
  @Bean
  OpenApiCustomizer signOut() {
    Operation operation = new Operation()
        .operationId("Session.signOut")
        .summary("Sign out")
        .addTagsItem("Session")
        .responses(new ApiResponses()
            .addApiResponse("204", new ApiResponse().description("Signed out"))
            .addApiResponse("401", answer("Nobody is signed in")));
    return api -> api.getPaths().get("/api/session").delete(operation);
  }

  private static Map<HttpStatus, String> problems(Operation operation, HandlerMethod method) {
    Map<HttpStatus, String> problems = new TreeMap<>();
    boolean asks =
        operation.getParameters() != null && !operation.getParameters().isEmpty();
    problems.put(HttpStatus.UNAUTHORIZED, "Nobody is signed in");
    problems.put(
        HttpStatus.SERVICE_UNAVAILABLE, "Others are writing; Retry-After says when to ask again");
    if (asks || operation.getRequestBody() != null) {
      problems.put(HttpStatus.BAD_REQUEST, "A value can't be used; detail says which and why");
      problems.put(HttpStatus.NOT_FOUND, "What is asked for is not known");
    }
    if (!method.hasMethodAnnotation(GetMapping.class)) {
      problems.put(HttpStatus.FORBIDDEN, "The role of who is signed in does not allow it");
      problems.put(HttpStatus.CONFLICT, "It was changed meanwhile, or is there already");
      problems.put(HttpStatus.UNPROCESSABLE_CONTENT, "It is refused; detail says why");
    }
    return problems;
  }

  private static ApiResponse answer(String when) {
    Schema<?> schema = new Schema<>().$ref("#/components/schemas/" + PROBLEM);
    return new ApiResponse()
        .description(when)
        .content(new Content().addMediaType(PROBLEM_JSON, new MediaType().schema(schema)));
  }
}
