import java.io.BufferedReader;
import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.UUID;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Starts a server whose data folder has nobody in it, does there what the first visitor's page does (signs in, asks for
 * the Board and the views beside it) and stops it, so that the archive of classes which it writes at its end also holds
 * those that a first visit needs.
 *
 * <p>{@code java FirstVisit.java COMMAND …}; ends with 1 if the server or an answer fails.
 */
public class FirstVisit {
    private static final String[] VIEWS = {
        "/", "/api/board", "/api/findings", "/api/job-summary", "/api/programmes", "/api/drill-runs", "/api/feeds"
    };
    private static final Pattern CODE = Pattern.compile("one-time code (\\S+)");
    private static final Pattern ADDRESS = Pattern.compile("Hard Proof is at (\\S+)");

    private final CookieManager cookies = new CookieManager();
    private final HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();
    private String address;

    public static void main(String[] command) throws Exception {
        Process server = new ProcessBuilder(command).redirectErrorStream(true).start();
        try {
            new FirstVisit().visit(server.inputReader());
        } finally {
            server.destroy();
            if (!server.waitFor(1, TimeUnit.MINUTES)) {
                server.destroyForcibly();
            }
        }
    }

    private void visit(BufferedReader output) throws IOException, InterruptedException {
        String code = found(CODE, output);
        address = found(ADDRESS, output);
        String password = UUID.randomUUID().toString();
        ask("/api/session", null);
        ask("/api/first-administrator", """
            {"code": "%s", "name": "first", "fullName": "", "password": "%s"}""".formatted(code, password));
        ask("/api/session", """
            {"name": "first", "password": "%s"}""".formatted(password));
        for (String view : VIEWS) {
            ask(view, null);
        }
    }

    /** Asks as the page does; sends something where there is something to send. */
    private void ask(String path, String sent) throws IOException, InterruptedException {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(address + path)).header("Accept-Encoding", "gzip");
        if (sent != null) {
            String token = cookies.getCookieStore().getCookies().stream()
                .filter(c -> c.getName().equals("XSRF-TOKEN"))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElseThrow();
            request.header("Content-Type", "application/json").header("X-XSRF-TOKEN", token);
            request.POST(HttpRequest.BodyPublishers.ofString(sent));
        }
        HttpResponse<byte[]> answer = client.send(request.build(), HttpResponse.BodyHandlers.ofByteArray());
        if (answer.statusCode() / 100 != 2) {
            throw new IOException(path + " was answered with " + answer.statusCode());
        }
    }

    private static String found(Pattern pattern, BufferedReader output) throws IOException {
        for (String line = output.readLine(); line != null; line = output.readLine()) {
            Matcher matcher = pattern.matcher(line);
            if (matcher.find()) {
                return matcher.group(1);
            }
        }
        throw new IOException("the server did not say its " + pattern);
    }
}
