package hardproof.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.AccessTarget;
import com.tngtech.archunit.core.domain.JavaAccess;
import com.tngtech.archunit.lang.ArchRule;
import java.util.Map;
import java.util.Set;

/** What can't be called from where the same facts and the same instant must always give the same answer. */
final class Walls {
  /** Members that ask the machine, the moment or chance, by the class that has them. */
  private static final Map<String, Set<String>> ASKS = Map.ofEntries(
      Map.entry(
          "java.lang.System",
          Set.of(
              "in",
              "out",
              "err",
              "currentTimeMillis",
              "nanoTime",
              "getenv",
              "getProperty",
              "getProperties",
              "exit",
              "lineSeparator",
              "console")),
      Map.entry("java.lang.Math", Set.of("random")),
      Map.entry("java.util.UUID", Set.of("randomUUID")),
      Map.entry("java.time.ZoneId", Set.of("systemDefault")),
      Map.entry("java.util.TimeZone", Set.of("getDefault", "setDefault")),
      Map.entry("java.util.Locale", Set.of("getDefault", "setDefault")));

  /** Classes of which nothing is used. */
  private static final Set<String> NEVER = Set.of(
      "java.lang.Process",
      "java.lang.ProcessBuilder",
      "java.lang.ProcessHandle",
      "java.lang.Runtime",
      "java.lang.Thread",
      "java.time.Clock",
      "java.util.Date",
      "java.util.Calendar",
      "java.util.GregorianCalendar",
      "java.util.Timer",
      "java.util.Scanner",
      "java.util.ServiceLoader",
      "java.util.ResourceBundle",
      "java.util.concurrent.ThreadLocalRandom",
      "java.util.concurrent.Executors");

  /** Methods that take a locale or a character set, and ask for that of the machine where none is given. */
  private static final Map<String, Set<String>> WITHOUT_LOCALE = Map.of(
      "java.lang.String.format", Set.of("java.lang.String, [Ljava.lang.Object;"),
      "java.lang.String.formatted", Set.of("[Ljava.lang.Object;"),
      "java.lang.String.toLowerCase", Set.of(""),
      "java.lang.String.toUpperCase", Set.of(""),
      "java.lang.String.getBytes", Set.of(""),
      "java.lang.String.<init>", Set.of("[B", "[B, int, int"),
      "java.util.Random.<init>", Set.of(""),
      "java.time.format.DateTimeFormatter.ofPattern", Set.of("java.lang.String"));

  static final ArchRule NOTHING_FROM_OUTSIDE = noClasses()
      .should()
      .accessTargetWhere(DescribedPredicate.describe(
          "asks the machine, the moment or chance", access -> asks(access)))
      .orShould()
      .dependOnClassesThat(
          DescribedPredicate.describe("start, wait or ask", c -> NEVER.contains(c.getName())));

  private Walls() {}

  private static boolean asks(JavaAccess<?> access) {
    AccessTarget target = access.getTarget();
    String owner = target.getOwner().getName();
    if (ASKS.getOrDefault(owner, Set.of()).contains(target.getName())) {
      return true;
    }
    if (!(target instanceof AccessTarget.CodeUnitAccessTarget called)) {
      return false;
    }
    boolean now = owner.startsWith("java.time.") && called.getName().equals("now");
    String parameters = String.join(
        ", ", called.getRawParameterTypes().stream().map(t -> t.getName()).toList());
    return now
        || WITHOUT_LOCALE
            .getOrDefault(owner + "." + called.getName(), Set.of())
            .contains(parameters);
  }
}
