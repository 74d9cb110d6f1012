package hardproof.server;

import hardproof.server.people.PeopleStore;
import hardproof.server.people.Person;
import hardproof.server.people.Role;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.boot.web.server.context.WebServerApplicationContext;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The real application over a small estate, on any free port, and clients that talk to it. */
public final class RunningServer implements AutoCloseable {
  public static final String PASSWORD = "correct horse battery";
  private static final JsonMapper JSON = JsonMapper.builder().build();

  public final Estate estate;
  private final ConfigurableApplicationContext context;
  private final int port;

  public RunningServer(Path folder) throws IOException {
    this(new Estate(folder).filled());
  }

  public RunningServer(Estate estate) {
    this.estate = estate;
    context = ServerApplication.over(estate.installation)
        .run("--server.port=0", "--server.address=127.0.0.1");
    port = ((WebServerApplicationContext) context).getWebServer().getPort();
  }

  public <T> T bean(Class<T> type) {
    return context.getBean(type);
  }

  /** Adds somebody with the role's name and {@link #PASSWORD}. */
  public RunningServer with(Role... roles) {
    BCryptPasswordEncoder cheap = new BCryptPasswordEncoder(4);
    for (Role role : roles) {
      String name = role.name().toLowerCase(Locale.ROOT);
      estate
          .installation
          .part(PeopleStore.class)
          .add(new Person(name, name + " A.", role, cheap.encode(PASSWORD), false));
    }
    return this;
  }

  public Client client() {
    return new Client();
  }

  /** A client that has signed in. */
  public Client as(Role role) {
    Client client = client();
    Answer answer = client.signIn(role.name().toLowerCase(Locale.ROOT), PASSWORD);
    if (answer.status() != 200) {
      throw new IllegalStateException(answer.body());
    }
    return client;
  }

  /** What came back. */
  public record Answer(int status, String body, HttpResponse<String> response) {
    public JsonNode json() {
      return JSON.readTree(body);
    }

    /** The sentence of a problem detail. */
    public String detail() {
      return json().path("detail").asString();
    }
  }

  /** One browser's worth of cookies. */
  public final class Client {
    private static final String BOUNDARY = "----boundary";

    private final CookieManager cookies = new CookieManager();
    private final HttpClient http =
        HttpClient.newBuilder().cookieHandler(cookies).build();

    public Answer get(String path) {
      return send(request(path).GET().build());
    }

    public int port() {
      return port;
    }

    /** The very bytes that are sent to a client that takes these encodings. */
    public HttpResponse<byte[]> bytes(String path, String encodings) throws IOException {
      try {
        return http.send(
            request(path).header("Accept-Encoding", encodings).GET().build(),
            BodyHandlers.ofByteArray());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException(e);
      }
    }

    /** Reads a stream of lines until it ends. */
    public void stream(String path, java.util.function.Consumer<String> line) {
      try {
        http.send(request(path).GET().build(), BodyHandlers.ofLines()).body().forEach(line);
      } catch (IOException | java.io.UncheckedIOException e) {
        // The server was stopped: the stream has ended.
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }

    public Answer post(String path, String json) {
      return send(withToken(path)
          .header("Content-Type", "application/json")
          .POST(BodyPublishers.ofString(json))
          .build());
    }

    public Answer post(String path, String json, String ifMatch) {
      return send(withToken(path)
          .header("Content-Type", "application/json")
          .header("If-Match", ifMatch)
          .POST(BodyPublishers.ofString(json))
          .build());
    }

    public Answer put(String path, String json, String ifMatch) {
      return send(withToken(path)
          .header("Content-Type", "application/json")
          .header("If-Match", ifMatch)
          .PUT(BodyPublishers.ofString(json))
          .build());
    }

    public Answer put(String path, String json) {
      return send(withToken(path)
          .header("Content-Type", "application/json")
          .PUT(BodyPublishers.ofString(json))
          .build());
    }

    public Answer patch(String path, String json) {
      return send(withToken(path)
          .header("Content-Type", "application/json")
          .method("PATCH", BodyPublishers.ofString(json))
          .build());
    }

    public Answer delete(String path) {
      return send(withToken(path).DELETE().build());
    }

    /** A POST as another site could make it: with the cookies, without the token. */
    public Answer postWithoutToken(String path, String json) {
      return send(request(path)
          .header("Content-Type", "application/json")
          .POST(BodyPublishers.ofString(json))
          .build());
    }

    public Answer upload(String feed, String name, byte[] content) {
      return multipart("/api/imports", "files", name, content, Map.of("feed", feed));
    }

    /** A form with fields and one file. */
    public Answer multipart(
        String path, String part, String name, byte[] content, Map<String, String> fields) {
      String other = fields.entrySet().stream()
          .map(f -> "--" + BOUNDARY + "\r\nContent-Disposition: form-data; name=\"" + f.getKey()
              + "\"\r\n\r\n" + f.getValue() + "\r\n")
          .collect(Collectors.joining());
      return form(path, other, part, name, content);
    }

    /** A form with two files, the first of which is text. */
    public Answer twoFiles(String path, String textPart, String text, String part, byte[] content) {
      return form(
          path, file(textPart, textPart + ".json") + text + "\r\n", part, "file.zip", content);
    }

    private static String file(String part, String name) {
      return "--" + BOUNDARY + "\r\nContent-Disposition: form-data; name=\"" + part
          + "\"; filename=\"" + name + "\"\r\nContent-Type: application/octet-stream\r\n\r\n";
    }

    private Answer form(String path, String other, String part, String name, byte[] content) {
      return send(withToken(path)
          .header("Content-Type", "multipart/form-data; boundary=" + BOUNDARY)
          .POST(BodyPublishers.concat(
              BodyPublishers.ofString(other + file(part, name)),
              BodyPublishers.ofByteArray(content),
              BodyPublishers.ofString("\r\n--" + BOUNDARY + "--\r\n")))
          .build());
    }

    public Answer signIn(String name, String password) {
      get("/api/session");
      return post(
          "/api/session",
          JSON.writeValueAsString(java.util.Map.of("name", name, "password", password)));
    }

    public String cookie(String name) {
      return cookies.getCookieStore().getCookies().stream()
          .filter(c -> c.getName().equals(name))
          .map(HttpCookie::getValue)
          .findFirst()
          .orElse("");
    }

    private HttpRequest.Builder request(String path) {
      return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path));
    }

    private HttpRequest.Builder withToken(String path) {
      return request(path).header("X-XSRF-TOKEN", cookie("XSRF-TOKEN"));
    }

    private Answer send(HttpRequest request) {
      try {
        HttpResponse<String> response = http.send(request, BodyHandlers.ofString());
        return new Answer(response.statusCode(), response.body(), response);
      } catch (IOException e) {
        throw new IllegalStateException(e);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException(e);
      }
    }
  }

  @Override
  public void close() {
    context.close();
    estate.close();
  }
}
