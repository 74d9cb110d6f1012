package hardproof.core;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.tngtech.archunit.core.importer.ClassFileImporter;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Locale;
import java.util.Random;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A wall that lets everything through looks like one that holds: each of these must be refused. */
class WallsTest {
  static final class Moment {
    Instant ask() {
      return Instant.now();
    }
  }

  static final class Day {
    LocalDate ask() {
      return LocalDate.now(ZoneOffset.UTC);
    }
  }

  static final class Milliseconds {
    long ask() {
      return System.currentTimeMillis() + System.nanoTime();
    }
  }

  static final class Print {
    void ask() {
      System.out.println("x");
    }
  }

  static final class Start {
    Object ask() throws java.io.IOException {
      return new ProcessBuilder("true").start();
    }
  }

  static final class Chance {
    Object ask() {
      return UUID.randomUUID();
    }
  }

  static final class Dice {
    int ask() {
      return new Random().nextInt();
    }
  }

  static final class Zone {
    Object ask() {
      return ZoneId.systemDefault();
    }
  }

  static final class Language {
    String ask() {
      return String.format("%d", 1) + "I".toLowerCase();
    }
  }

  static final class Environment {
    String ask() {
      return System.getenv("HOME");
    }
  }

  static final class Waits {
    String ask() {
      return Thread.currentThread().getName();
    }
  }

  /** What is a function of what it is given. */
  static final class Pure {
    String ask(Instant at, long seed) {
      return String.format(Locale.ROOT, "%s %d", at.plusMillis(1), new Random(seed).nextInt())
          .toLowerCase(Locale.ROOT);
    }
  }

  static Stream<Class<?>> outside() {
    return Stream.of(WallsTest.class.getDeclaredClasses()).filter(c -> c != Pure.class);
  }

  @ParameterizedTest
  @MethodSource
  void outside(Class<?> fixture) {
    var imported = new ClassFileImporter().importClasses(fixture);
    assertThatThrownBy(() -> Walls.NOTHING_FROM_OUTSIDE.check(imported))
        .isInstanceOf(AssertionError.class)
        .hasMessageContaining(fixture.getName());
  }

  @Test
  void functionsOfWhatTheyAreGivenAreNotRefused() {
    Walls.NOTHING_FROM_OUTSIDE.check(new ClassFileImporter().importClasses(Pure.class));
    assertThat(outside()).hasSize(11);
  }
}
