package hardproof.server.people;

import hardproof.core.wording.Wording;
import hardproof.server.web.MayBeAbsent;
import hardproof.server.web.Refused;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.security.Principal;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.authentication.session.SessionAuthenticationStrategy;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in. Signing out is DELETE /api/session. */
@RestController
@RequestMapping("/api")
class SessionController {
  private final AuthenticationManager authentication;
  private final SessionAuthenticationStrategy session;
  private final SecurityContextRepository contexts;
  private final PeopleStore people;
  private final SignInGuard guard;
  private final FirstAdministrator firstAdministrator;

  SessionController(
      AuthenticationManager authentication,
      SessionAuthenticationStrategy session,
      SecurityContextRepository contexts,
      PeopleStore people,
      SignInGuard guard,
      FirstAdministrator firstAdministrator) {
    this.authentication = authentication;
    this.session = session;
    this.contexts = contexts;
    this.people = people;
    this.guard = guard;
    this.firstAdministrator = firstAdministrator;
  }

  /**
   * Who is signed in, and what the sign-in page needs to know.
   *
   * @param person null when nobody is signed in
   * @param demoPeople those of the demo estate; empty without it
   */
  record Session(
      @MayBeAbsent SignedIn person, boolean needsFirstAdministrator, List<DemoPerson> demoPeople) {}

  record SignedIn(String name, String fullName, String role) {}

  record DemoPerson(String name, String fullName, String role) {}

  record Credentials(@NotBlank String name, @NotBlank String password) {}

  record FirstPerson(
      @NotBlank String code,
      @NotBlank String name,
      @NotNull String fullName,
      @NotBlank String password) {}

  @GetMapping("/session")
  Session session(Principal principal) {
    List<Person> all = people.all();
    SignedIn signedIn = principal == null
        ? null
        : people
            .find(principal.getName())
            .map(p -> new SignedIn(p.name(), p.fullName(), p.role().code()))
            .orElse(null);
    return new Session(
        signedIn,
        all.isEmpty(),
        all.stream()
            .filter(Person::demo)
            .map(p -> new DemoPerson(p.name(), p.fullName(), p.role().code()))
            .toList());
  }

  @PostMapping("/session")
  Session signIn(
      @Valid @RequestBody Credentials credentials,
      HttpServletRequest request,
      HttpServletResponse response) {
    var wait = guard.waitFor(credentials.name());
    if (!wait.isZero()) {
      throw new Refused("Too many wrong passwords for this name. Try again in "
          + Wording.duration(wait.plusMillis(999)) + ".");
    }
    Authentication result;
    try {
      result = authentication.authenticate(UsernamePasswordAuthenticationToken.unauthenticated(
          credentials.name(), credentials.password()));
    } catch (AuthenticationException e) {
      guard.failed(credentials.name());
      throw new BadCredentialsException("The name or the password is wrong.", e);
    }
    guard.succeeded(credentials.name());
    session.onAuthentication(result, request, response);
    SecurityContext context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(result);
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
    return session(result);
  }

  @PostMapping("/first-administrator")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void firstAdministrator(@Valid @RequestBody FirstPerson person) {
    String attempts = "first administrator";
    if (!guard.waitFor(attempts).isZero()) {
      throw new Refused("Too many wrong codes. Try again in "
          + Wording.duration(guard.waitFor(attempts).plusMillis(999)) + ".");
    }
    try {
      firstAdministrator.make(person.code(), person.name(), person.fullName(), person.password());
    } catch (Refused e) {
      guard.failed(attempts);
      throw e;
    }
  }
}
