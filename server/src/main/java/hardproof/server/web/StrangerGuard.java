package hardproof.server.web;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.BufferedReader;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.apache.coyote.CloseNowException;
import org.springframework.security.web.context.HttpSessionSecurityContextRepository;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * What somebody who has not signed in may send: a small body, in a short time, and not many at once; nothing
 * of an upload is read before it is known that who sends it may. Everybody else's bodies have a bound too.
 * Stands before all that looks at a request.
 */
final class StrangerGuard extends OncePerRequestFilter {
  /** More than any sign-in, link or answer from outside is. */
  static final int STRANGERS_MOST_BYTES = 16 << 10;

  /** More than any selector, standard or list of marked findings is. */
  static final int MOST_BYTES = 8 << 20;

  static final long MOST_SECONDS = 5;

  /** Bodies of strangers that are read at once: of all, and of one address, which can only hold up itself. */
  private static final int AT_ONCE = 80;

  private static final int OF_ONE_ADDRESS = 10;

  private final Map<String, Integer> reading = new HashMap<>();
  private int allReading;

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    boolean upload = multipart(request);
    boolean stranger = stranger(request.getSession(false));
    long length = request.getContentLengthLong();
    boolean body = length > 0 || request.getHeader("Transfer-Encoding") != null;
    if (upload && (stranger || request.getHeader("X-XSRF-TOKEN") == null)) {
      // Without the header the token would be looked for in the parts, which would all be kept
      // first.
      refuse(response, stranger ? 401 : 403, "Sign in first; nothing of the upload was read.");
      return;
    }
    if (upload || !body) {
      chain.doFilter(request, response);
      return;
    }
    int most = stranger ? STRANGERS_MOST_BYTES : MOST_BYTES;
    if (length > most) {
      refuse(response, 413, "The body is larger than the " + most + " bytes that are read here.");
      return;
    }
    byte[] read = stranger ? ofStranger(request, response) : ofSignedIn(request, response);
    if (read == null && !response.isCommitted()) {
      refuse(response, 413, "The body is larger than the " + most + " bytes that are read here.");
    } else if (read != null) {
      chain.doFilter(new Kept(request, read), response);
    }
  }

  private static boolean stranger(HttpSession session) {
    return session == null
        || session.getAttribute(HttpSessionSecurityContextRepository.SPRING_SECURITY_CONTEXT_KEY)
            == null;
  }

  private static boolean multipart(HttpServletRequest request) {
    String type = request.getContentType();
    return type != null && type.toLowerCase(java.util.Locale.ROOT).startsWith("multipart/");
  }

  private static byte[] ofSignedIn(HttpServletRequest request, HttpServletResponse response)
      throws IOException {
    try {
      return within(request, MOST_BYTES);
    } catch (TooSlow e) {
      refuse(response, 408, "The body took too long.");
      return null;
    }
  }

  private byte[] ofStranger(HttpServletRequest request, HttpServletResponse response)
      throws IOException {
    String address = request.getRemoteAddr();
    if (!begin(address)) {
      response.setHeader("Retry-After", "5");
      refuse(response, 503, "Too many are sending at this moment. Try again in 5 s.");
      return null;
    }
    try {
      return within(request, STRANGERS_MOST_BYTES);
    } catch (TooSlow e) {
      refuse(response, 408, "The body took longer than " + MOST_SECONDS + " s.");
      return null;
    } finally {
      end(address);
    }
  }

  private synchronized boolean begin(String address) {
    if (allReading >= AT_ONCE || reading.getOrDefault(address, 0) >= OF_ONE_ADDRESS) {
      return false;
    }
    allReading++;
    reading.merge(address, 1, Integer::sum);
    return true;
  }

  private synchronized void end(String address) {
    allReading--;
    reading.computeIfPresent(address, (a, n) -> n == 1 ? null : n - 1);
  }

  /** Null when there is more than {@code most}. */
  private static byte[] within(HttpServletRequest request, int most) throws IOException {
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(MOST_SECONDS);
    InputStream in = request.getInputStream();
    java.io.ByteArrayOutputStream read = new java.io.ByteArrayOutputStream();
    byte[] buffer = new byte[8192];
    int n;
    while ((n = in.read(buffer)) >= 0) {
      read.write(buffer, 0, n);
      if (read.size() > most) {
        return null;
      }
      // A large body may take longer, but not for ever.
      long extra = TimeUnit.SECONDS.toNanos(read.size() / 8192);
      if (System.nanoTime() - end - extra > 0) {
        throw new TooSlow();
      }
    }
    return read.toByteArray();
  }

  private static final class TooSlow extends IOException {
    private static final long serialVersionUID = 1L;

    TooSlow() {
      super("a body took too long");
    }
  }

  private static void refuse(HttpServletResponse response, int status, String detail)
      throws IOException {
    response.setStatus(status);
    response.setHeader("Connection", "close");
    response.setContentType("application/problem+json");
    byte[] body = ("{\"type\":\"urn:hard-proof:refused\",\"status\":" + status + ",\"detail\":\""
            + detail + "\"}")
        .getBytes(StandardCharsets.UTF_8);
    // Whoever handles the exception below would write a second answer behind it.
    response.setContentLength(body.length);
    response.getOutputStream().write(body);
    response.flushBuffer();
    // What is still to come would be read to its end, however slowly it comes.
    throw new CloseNowException();
  }

  /** A request whose body has been read. */
  private static final class Kept extends HttpServletRequestWrapper {
    private final byte[] body;

    Kept(HttpServletRequest request, byte[] body) {
      super(request);
      this.body = body;
    }

    @Override
    public ServletInputStream getInputStream() {
      ByteArrayInputStream in = new ByteArrayInputStream(body);
      return new ServletInputStream() {
        @Override
        public int read() {
          return in.read();
        }

        @Override
        public int read(byte[] buffer, int offset, int length) {
          return in.read(buffer, offset, length);
        }

        @Override
        public boolean isFinished() {
          return in.available() == 0;
        }

        @Override
        public boolean isReady() {
          return true;
        }

        @Override
        public void setReadListener(ReadListener listener) {
          throw new IllegalStateException("the body is read already");
        }
      };
    }

    @Override
    public BufferedReader getReader() {
      return new BufferedReader(new InputStreamReader(getInputStream(), StandardCharsets.UTF_8));
    }
  }
}
