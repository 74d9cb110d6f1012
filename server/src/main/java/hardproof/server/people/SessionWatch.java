package hardproof.server.people;

import hardproof.proving.checksums.Sha256;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Ends a session with the next request when its person has ended, has another role or another password than
 * at the sign-in: nobody has to find the session first.
 */
final class SessionWatch extends OncePerRequestFilter {
  private static final String STANDING = SessionWatch.class.getName() + ".standing";

  private final PeopleStore people;

  SessionWatch(PeopleStore people) {
    this.people = people;
  }

  /** What must not change while a session lasts. */
  static String standing(Person person) {
    return person.role().code() + " "
        + Sha256.of(person.passwordHash().getBytes(StandardCharsets.UTF_8));
  }

  /** To be called at the sign-in, and when a person changes the password of this very session. */
  static void remember(HttpServletRequest request, Person person) {
    request.getSession().setAttribute(STANDING, standing(person));
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    Authentication who = SecurityContextHolder.getContext().getAuthentication();
    HttpSession session = request.getSession(false);
    if (who != null && session != null && !stands(who.getName(), session)) {
      session.invalidate();
      SecurityContextHolder.clearContext();
    }
    chain.doFilter(request, response);
  }

  private boolean stands(String name, HttpSession session) {
    return people
        .find(name)
        .filter(Person::active)
        .map(SessionWatch::standing)
        .filter(s -> s.equals(session.getAttribute(STANDING)))
        .isPresent();
  }
}
