package hardproof.server.people;

import hardproof.server.activity.Activity;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
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
  private final Activity activity;
  private final Database database;
  private final LedgerDesk ledger;

  SessionController(
      AuthenticationManager authentication,
      SessionAuthenticationStrategy session,
      SecurityContextRepository contexts,
      PeopleStore people,
      SignInGuard guard,
      FirstAdministrator firstAdministrator,
      Activity activity,
      Database database,
      LedgerDesk ledger) {
    this.database = database;
    this.ledger = ledger;
    this.authentication = authentication;
    this.session = session;
    this.contexts = contexts;
    this.people = people;
    this.guard = guard;
    this.firstAdministrator = firstAdministrator;
    this.activity = activity;
  }

  /**
   * Who is signed in, and what the sign-in page needs to know.
   *
   * @param person null when nobody is signed in
   * @param demoPeople those of the demo estate; empty without it
   * @param warnings what is wrong with our own file or with the ledger; nothing is said to who is not signed in
   */
  record Session(
      @Nullable SignedIn person,
      boolean needsFirstAdministrator,
      List<DemoPerson> demoPeople,
      List<String> warnings) {}

  record SignedIn(String name, String fullName, Role role) {}

  record DemoPerson(String name, String fullName, Role role) {}

  record Credentials(
      @NotBlank @Size(max = 200) String name,
      @NotBlank @Size(max = 1000) String password) {}

  record FirstPerson(
      @NotBlank @Size(max = 100) String code,
      @NotBlank @Size(max = 64) String name,
      @NotNull @Size(max = 200) String fullName,
      @NotBlank @Size(max = 1000) String password) {}

  @Operation(summary = "Who is signed in")
  @GetMapping("/session")
  Session session(Principal principal) {
    List<Person> all = people.all();
    SignedIn signedIn = signedIn(principal);
    return new Session(
        signedIn,
        all.isEmpty(),
        all.stream()
            .filter(p -> p.demo() && p.active())
            .map(p -> new DemoPerson(p.name(), p.fullName(), p.role()))
            .toList(),
        signedIn == null ? List.of() : warnings());
  }

  private List<String> warnings() {
    return Stream.concat(database.health().warnings().stream(), ledger.warnings().stream())
        .toList();
  }

  private SignedIn signedIn(Principal principal) {
    return principal == null
        ? null
        : people
            .find(principal.getName())
            .map(p -> new SignedIn(p.name(), p.fullName(), p.role()))
            .orElse(null);
  }

  @Operation(summary = "Sign in")
  @PostMapping("/session")
  Session signIn(
      @Valid @RequestBody Credentials credentials,
      HttpServletRequest request,
      HttpServletResponse response) {
    String from = request.getRemoteAddr();
    guard.waitOrRefuse(credentials.name(), from);
    Authentication result = authenticated(credentials, from);
    guard.succeeded(credentials.name(), from);
    begin(request, response, from, result);
    return session(result);
  }

  private Authentication authenticated(Credentials credentials, String from) {
    Authentication result;
    try {
      result = authentication.authenticate(UsernamePasswordAuthenticationToken.unauthenticated(
          credentials.name(), credentials.password()));
    } catch (AuthenticationException e) {
      guard.failed(credentials.name(), from);
      throw new BadCredentialsException("The name or the password is wrong.", e);
    }
    return result;
  }

  private void begin(
      HttpServletRequest request,
      HttpServletResponse response,
      String from,
      Authentication result) {
    session.onAuthentication(result, request, response);
    SessionWatch.remember(request, people.find(result.getName()).orElseThrow());
    activity.recordSoon(result.getName(), "signed in", result.getName(), "from " + from);
    SecurityContext context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(result);
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
  }

  @Operation(summary = "Make the first administrator")
  @PostMapping("/first-administrator")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void firstAdministrator(@Valid @RequestBody FirstPerson person, HttpServletRequest request) {
    String attempts = "first administrator";
    guard.waitOrRefuse(attempts, request.getRemoteAddr());
    try {
      firstAdministrator.make(person.code(), person.name(), person.fullName(), person.password());
    } catch (Refused e) {
      guard.failed(attempts, request.getRemoteAddr());
      throw e;
    }
    activity.record(person.name(), "first administrator made", person.name(), "");
  }
}
