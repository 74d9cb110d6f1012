package hardproof.server.web;

import hardproof.core.drills.Transitions.ImpossibleTransition;
import hardproof.core.wording.WrongValue;
import hardproof.server.storage.Database;
import hardproof.server.storage.NoSpaceLeft;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.http.converter.HttpMessageNotWritableException;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.authentication.BadCredentialsException;
import org.springframework.security.core.AuthenticationException;
import org.springframework.validation.FieldError;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.context.request.async.AsyncRequestTimeoutException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.multipart.MaxUploadSizeExceededException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import tools.jackson.core.JacksonException;

/** Every error as a problem detail (RFC 9457) whose {@code detail} a person can act on. */
@RestControllerAdvice
class Problems extends ResponseEntityExceptionHandler {
  private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

  private static ProblemDetail problem(HttpStatus status, String type, String detail) {
    ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, detail);
    problem.setType(URI.create("urn:hard-proof:" + type));
    return problem;
  }

  @ExceptionHandler
  ProblemDetail notFound(NotFound e) {
    return problem(HttpStatus.NOT_FOUND, "not-found", e.getMessage());
  }

  @ExceptionHandler
  ProblemDetail refused(Refused e) {
    return problem(HttpStatus.UNPROCESSABLE_CONTENT, "refused", e.getMessage());
  }

  @ExceptionHandler
  ProblemDetail conflict(Conflict e) {
    return problem(HttpStatus.CONFLICT, "conflict", e.getMessage());
  }

  @ExceptionHandler
  ProblemDetail wrongValue(WrongValue e) {
    return problem(HttpStatus.BAD_REQUEST, "wrong-value", sentence(e.getMessage()));
  }

  @ExceptionHandler
  ProblemDetail signIn(BadCredentialsException e) {
    return problem(HttpStatus.UNAUTHORIZED, "sign-in", e.getMessage());
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> busy(Database.Busy e) {
    return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
        .header(HttpHeaders.RETRY_AFTER, "1")
        .body(problem(HttpStatus.SERVICE_UNAVAILABLE, "busy", e.getMessage()));
  }

  @ExceptionHandler
  ResponseEntity<ProblemDetail> tooMany(TooMany e) {
    return ResponseEntity.status(HttpStatus.TOO_MANY_REQUESTS)
        .header(HttpHeaders.RETRY_AFTER, Long.toString(e.seconds()))
        .body(problem(HttpStatus.TOO_MANY_REQUESTS, "too-many", e.getMessage()));
  }

  @ExceptionHandler
  ProblemDetail taken(DuplicateKeyException e) {
    return problem(
        HttpStatus.CONFLICT, "taken", "Something with this key is there already; choose another.");
  }

  @ExceptionHandler
  ProblemDetail impossible(ImpossibleTransition e) {
    ProblemDetail problem =
        problem(HttpStatus.CONFLICT, "impossible-transition", sentence(e.getMessage()));
    problem.setProperty("from", e.from());
    problem.setProperty("to", e.to());
    return problem;
  }

  @ExceptionHandler
  ProblemDetail noSpace(NoSpaceLeft e) {
    return problem(HttpStatus.INSUFFICIENT_STORAGE, "no-space", e.getMessage());
  }

  @ExceptionHandler
  ProblemDetail database(DataAccessException e) {
    LOG.error("the database refused", e);
    return problem(
        HttpStatus.INTERNAL_SERVER_ERROR,
        "database",
        "The database refused this; nothing of it was kept. The log of the server says why.");
  }

  @ExceptionHandler
  ProblemDetail disk(IOException e) {
    LOG.error("a file could not be read or written", e);
    boolean full = String.valueOf(e.getMessage()).contains("No space left");
    return full
        ? problem(
            HttpStatus.INSUFFICIENT_STORAGE,
            "no-space",
            "There is no space left on the disk of the data folder. Nothing of this was kept; free some"
                + " and try again.")
        : problem(
            HttpStatus.INTERNAL_SERVER_ERROR,
            "disk",
            "A file could not be read or written: " + e.getMessage() + ".");
  }

  /** What nobody foresaw is ours: it is logged whole, and whoever asked gets the number under which it stands. */
  @ExceptionHandler
  ProblemDetail ours(RuntimeException e) {
    if (e instanceof AccessDeniedException || e instanceof AuthenticationException) {
      throw e;
    }
    String number = UUID.randomUUID().toString().substring(0, 8);
    LOG.error("mistake {}", number, e);
    ProblemDetail problem = problem(
        HttpStatus.INTERNAL_SERVER_ERROR,
        "mistake",
        "Hard Proof made a mistake; it is not what you gave. Look whether it was carried out before you try"
            + " again. The log of the server says more under " + number + ".");
    problem.setProperty("number", number);
    return problem;
  }

  @ExceptionHandler
  ProblemDetail wrongType(MethodArgumentTypeMismatchException e) {
    WrongValue wrong = wrongValueIn(e);
    return wrong == null ? wrongType(e.getName(), e.getValue()) : wrongValue(wrong);
  }

  private static ProblemDetail wrongType(String name, Object value) {
    return problem(
        HttpStatus.BAD_REQUEST,
        "wrong-value",
        "'" + value + "' can't be used for " + name + "; times are written as"
            + " 2026-11-24T03:10:00Z.");
  }

  @ExceptionHandler
  ProblemDetail diskInside(UncheckedIOException e) {
    return disk(e.getCause());
  }

  /** Only event streams go on for so long, and their answer has begun: there is nothing to say. */
  @Override
  protected @Nullable ResponseEntity<Object> handleAsyncRequestTimeoutException(
      AsyncRequestTimeoutException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    return null;
  }

  /** Whoever went away while an answer was on its way is told nothing, and nobody is warned of it. */
  @Override
  protected @Nullable ResponseEntity<Object> handleHttpMessageNotWritable(
      HttpMessageNotWritableException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof IOException) {
        return null;
      }
    }
    return super.handleHttpMessageNotWritable(e, headers, status, request);
  }

  @Override
  protected ResponseEntity<Object> handleMethodArgumentNotValid(
      MethodArgumentNotValidException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    for (FieldError f : e.getBindingResult().getFieldErrors()) {
      if (f.isBindingFailure()) {
        return ResponseEntity.badRequest().body(wrongType(f.getField(), f.getRejectedValue()));
      }
    }
    String fields = e.getBindingResult().getFieldErrors().stream()
        .map(f -> f.getField() + " " + f.getDefaultMessage())
        .sorted()
        .collect(Collectors.joining("; "));
    return ResponseEntity.badRequest()
        .body(problem(HttpStatus.BAD_REQUEST, "wrong-value", sentence(fields)));
  }

  @Override
  protected ResponseEntity<Object> handleHttpMessageNotReadable(
      HttpMessageNotReadableException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    WrongValue wrong = wrongValueIn(e);
    if (wrong != null) {
      String detail = sentence(place(e) + wrong.getMessage());
      return ResponseEntity.badRequest()
          .body(problem(HttpStatus.BAD_REQUEST, "wrong-value", detail));
    }
    return ResponseEntity.badRequest()
        .body(problem(
            HttpStatus.BAD_REQUEST,
            "wrong-value",
            "The request is not the JSON that is expected here; the OpenAPI description tells."));
  }

  @Override
  protected ResponseEntity<Object> handleMaxUploadSizeExceededException(
      MaxUploadSizeExceededException e,
      HttpHeaders headers,
      HttpStatusCode status,
      WebRequest request) {
    return ResponseEntity.status(HttpStatus.CONTENT_TOO_LARGE)
        .body(problem(
            HttpStatus.CONTENT_TOO_LARGE,
            "too-large",
            "The upload is larger than the 100 MB that the screen takes; nothing was stored. Split it,"
                + " or bring it in with ./hard-proof import, which has no limit."));
  }

  /** What one of our own readers of JSON or of addresses said of a value; null when none did. */
  private static @Nullable WrongValue wrongValueIn(Throwable e) {
    Throwable cause = e;
    while (cause != null && !(cause instanceof WrongValue)) {
      cause = cause.getCause();
    }
    return (WrongValue) cause;
  }

  /** Where in JSON that was, such as {@code checks 2, type: }; lists are counted from 1. */
  private static String place(HttpMessageNotReadableException e) {
    if (!(e.getCause() instanceof JacksonException json)) {
      return "";
    }
    StringBuilder place = new StringBuilder();
    for (JacksonException.Reference step : json.getPath()) {
      if (step.getPropertyName() == null) {
        place.append(' ').append(step.getIndex() + 1);
      } else {
        place.append(place.isEmpty() ? "" : ", ").append(step.getPropertyName());
      }
    }
    return place.isEmpty() ? "" : place + ": ";
  }

  private static String sentence(String text) {
    if (text == null || text.isBlank()) {
      return "The request can't be understood.";
    }
    String first = Character.toUpperCase(text.charAt(0)) + text.substring(1);
    return first.matches("(?s).*[.!?]$") ? first : first + ".";
  }
}
