package hardproof.server.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;

import hardproof.core.wording.WrongValue;
import hardproof.server.storage.NoSpaceLeft;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.UncheckedIOException;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.converter.HttpMessageNotWritableException;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.web.context.request.ServletWebRequest;

/** Errors that are hard to bring about for real. */
class ProblemsTest {
  private final Problems problems = new Problems();

  @Test
  void aFullDiskIsToldWithWhatToDoWhereverItIsNoticed() {
    var upload = problems.disk(new IOException("No space left on device"));
    assertThat(upload.getStatus()).isEqualTo(507);
    assertThat(upload.getDetail())
        .contains("no space left")
        .contains("free some")
        .contains("Nothing of this was kept");
    assertThat(problems
            .diskInside(new UncheckedIOException(new IOException("No space left on device")))
            .getStatus())
        .isEqualTo(507);
    var database = problems.noSpace(new NoSpaceLeft(null));
    assertThat(database.getStatus()).isEqualTo(507);
    assertThat(database.getDetail()).contains("nothing stored before is lost");
  }

  @Test
  void otherErrorsOfTheDiskAndTheDatabaseAreNotDressedUp() {
    assertThat(problems.disk(new IOException("Input/output error")).getDetail())
        .contains("Input/output error");
    assertThat(problems.database(new DataIntegrityViolationException("CHECK")).getStatus())
        .isEqualTo(500);
    assertThat(problems.taken(new DuplicateKeyException("UNIQUE")).getStatus()).isEqualTo(409);
  }

  /** Whoever has gone away is told nothing; an answer that we could not write is our mistake, and told. */
  @Test
  void whoHasGoneAwayIsNoFault() throws Exception {
    var request =
        new ServletWebRequest(mock(HttpServletRequest.class), mock(HttpServletResponse.class));
    var ours = problems.handleException(
        new HttpMessageNotWritableException("JSON", new IllegalStateException("no")), request);
    assertThat(ours.getStatusCode().value()).isEqualTo(500);
    assertThat(problems.handleException(
            new HttpMessageNotWritableException("JSON", new IOException("closed")), request))
        .isNull();
  }

  @Test
  void aMessageBecomesASentence() {
    assertThat(
            problems.wrongValue(new WrongValue("is not a time; write it as x")).getDetail())
        .isEqualTo("Is not a time; write it as x.");
    assertThat(problems.wrongValue(new WrongValue(" ")).getDetail())
        .isEqualTo("The request can't be understood.");
  }

  /** The number is what ties what a person saw to what stands in the log; the message of the error stays there. */
  @Test
  void aMistakeOfOursIsNotTheUsers() {
    var mistake = problems.ours(new IllegalArgumentException("secret state"));
    assertThat(mistake.getStatus()).isEqualTo(500);
    String number = (String) mistake.getProperties().get("number");
    assertThat(number).hasSize(8);
    assertThat(mistake.getDetail()).contains(number).doesNotContain("secret state");
    assertThat(problems.ours(new IllegalStateException()).getProperties().get("number"))
        .isNotEqualTo(number);
  }

  @Test
  void whoMayDoWhatIsAnsweredElsewhere() {
    assertThatThrownBy(() -> problems.ours(new AccessDeniedException("no")))
        .isInstanceOf(AccessDeniedException.class);
  }
}
