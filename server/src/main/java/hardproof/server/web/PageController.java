package hardproof.server.web;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.util.Base64;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/**
 * The page, at the address of each of its sections. Each answer has a nonce of its own, which lets
 * the theme's style sheet in and no other inline style.
 */
@Controller
class PageController {
  private static final String PLACEHOLDER = "CSP_NONCE";

  private final SecureRandom random = new SecureRandom();
  private final String page;

  PageController() throws IOException {
    try (InputStream in = getClass().getResourceAsStream("/page/index.html")) {
      page = in == null
          ? "The page is not part of this build."
          : new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  @GetMapping({
    "/",
    "/board",
    "/findings",
    "/criteria",
    "/insights",
    "/integrity",
    "/survival",
    "/survival/going-back",
    "/engines",
    "/people",
    "/set-password",
    "/drills",
    "/feeds",
    "/feeds/stores",
    "/evidence",
    "/alerts",
    "/sign-in"
  })
  ResponseEntity<String> page() {
    byte[] bytes = new byte[18];
    random.nextBytes(bytes);
    String nonce = Base64.getUrlEncoder().encodeToString(bytes);
    String policy = "default-src 'self'; script-src 'self'; style-src 'self' 'nonce-" + nonce
        + "'; img-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self';"
        + " frame-ancestors 'none'";
    return ResponseEntity.ok()
        .header("Content-Security-Policy", policy)
        .cacheControl(CacheControl.noStore())
        .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
        .body(page.replace(PLACEHOLDER, nonce));
  }
}
