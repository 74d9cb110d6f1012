package hardproof.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.storage.NoSpaceLeft;
import java.io.IOException;
import java.io.UncheckedIOException;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.DuplicateKeyException;

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

  @Test
  void aMessageBecomesASentence() {
    assertThat(problems
            .wrongValue(new IllegalArgumentException("is not a time; write it as x"))
            .getDetail())
        .isEqualTo("Is not a time; write it as x.");
    assertThat(problems.wrongValue(new IllegalArgumentException()).getDetail())
        .isEqualTo("The request can't be understood.");
  }
}
