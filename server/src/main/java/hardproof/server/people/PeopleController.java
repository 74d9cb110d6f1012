package hardproof.server.people;

import io.swagger.v3.oas.annotations.Operation;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** People: added, changed and ended by administrators; everyone changes the own password. */
@RestController
@RequestMapping("/api")
class PeopleController {
  private final PeopleDesk desk;
  private final PeopleStore people;
  private final SignInGuard guard;
  private final ApplicationEventPublisher events;

  PeopleController(
      PeopleDesk desk, PeopleStore people, SignInGuard guard, ApplicationEventPublisher events) {
    this.desk = desk;
    this.people = people;
    this.guard = guard;
    this.events = events;
  }

  /**
   * Somebody.
   *
   * @param waits whether they have not set a password yet
   * @param ended since when they can't sign in any more; absent while they can
   */
  record PersonView(
      String name,
      String fullName,
      Role role,
      boolean waits,
      @Nullable Instant ended) {}

  /** A link that sets a password, shown this once; {@code path} goes behind the server's address. */
  record PasswordLink(String name, String path, Instant until) {
    static PasswordLink of(PeopleDesk.Link link) {
      return new PasswordLink(link.name(), link.path(), link.until());
    }
  }

  record NewPerson(
      @NotBlank @Size(max = 64) String name,
      @Nullable @Size(max = 200) String fullName,
      @NotNull Role role) {}

  record NewRole(@NotNull Role role) {}

  record LinkToken(@NotBlank @Size(max = 200) String token) {}

  record LinkedPassword(
      @NotBlank @Size(max = 200) String token,
      @NotBlank @Size(max = 1000) String password) {}

  /** Whose password a link sets. */
  record Linked(String name) {}

  record OwnPassword(
      @NotBlank @Size(max = 1000) String old,
      @NotBlank @Size(max = 1000) String password) {}

  @Operation(summary = "Everybody with an account")
  @GetMapping("/people")
  List<PersonView> people() {
    return desk.all().stream()
        .map(p -> new PersonView(
            p.name(), p.fullName(), p.role(), p.active() && !p.hasPassword(), p.endedAt()))
        .toList();
  }

  @Operation(summary = "Add a person")
  @PostMapping("/people")
  @ResponseStatus(HttpStatus.CREATED)
  PasswordLink add(@Valid @RequestBody NewPerson person, Principal by) {
    return PasswordLink.of(
        desk.add(person.name().strip(), person.fullName(), person.role(), by.getName()));
  }

  @Operation(summary = "Change the role of a person")
  @PutMapping("/people/{name}/role")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void change(@PathVariable String name, @Valid @RequestBody NewRole role, Principal by) {
    desk.change(name, role.role(), by.getName());
    events.publishEvent(new SessionsEnded(name));
  }

  @Operation(summary = "End the account of a person")
  @PostMapping("/people/{name}/end")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable String name, Principal by) {
    desk.end(name, by.getName());
    events.publishEvent(new SessionsEnded(name));
  }

  @Operation(summary = "Give a person a new link to set a password")
  @PostMapping("/people/{name}/reset")
  PasswordLink reset(@PathVariable String name, Principal by) {
    PasswordLink link = PasswordLink.of(desk.reset(name, by.getName()));
    events.publishEvent(new SessionsEnded(name));
    return link;
  }

  @Operation(summary = "Change your own password")
  @PutMapping("/own-password")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void changeOwn(
      @Valid @RequestBody OwnPassword order, Principal person, HttpServletRequest request) {
    guard.waitOrRefuse(person.getName(), request.getRemoteAddr());
    try {
      desk.changeOwn(person.getName(), order.old(), order.password());
    } catch (hardproof.server.web.Refused e) {
      if (e.getMessage().startsWith("The old password")) {
        guard.failed(person.getName(), request.getRemoteAddr());
      }
      throw e;
    }
    SessionWatch.remember(request, people.find(person.getName()).orElseThrow());
  }

  /** Whose password a link sets; for who has no session yet. */
  @Operation(summary = "Whose password a link sets")
  @PostMapping("/password-links/look")
  Linked look(@Valid @RequestBody LinkToken link, HttpServletRequest request) {
    guard.waitOrRefuse("password link", request.getRemoteAddr());
    return new Linked(desk.linked(link.token()).orElseThrow(() -> {
      guard.failed("password link", request.getRemoteAddr());
      return new hardproof.server.web.NotFound("This link was used, is too old, or was replaced by"
          + " another. Ask an administrator for a new one.");
    }));
  }

  @Operation(summary = "Set a password by a link")
  @PostMapping("/password-links/use")
  Linked use(@Valid @RequestBody LinkedPassword link, HttpServletRequest request) {
    guard.waitOrRefuse("password link", request.getRemoteAddr());
    return new Linked(desk.setByLink(link.token(), link.password()));
  }
}
