package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.census.CensusState;
import hardproof.core.copies.Copy;
import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.Notation;
import hardproof.core.feeds.PlainNotation;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Values;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Coded;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Every criterion stands in docs/criteria.md with a worked example; the examples are carried out here.
 * Each begins with the small estate that the document describes.
 */
class CriteriaDocTest {
  private static final Path DOC = Path.of("../docs/criteria.md");
  private static final Path WORDS = Path.of("src/test/resources/words-of-criteria.txt");
  private static final Pattern EXAMPLE = Pattern.compile("```example\n(.*?)```", Pattern.DOTALL);

  static Stream<String> examples() throws IOException {
    Matcher matcher = EXAMPLE.matcher(Files.readString(DOC));
    List<String> examples = new ArrayList<>();
    while (matcher.find()) {
      examples.add(matcher.group(1));
    }
    return examples.stream();
  }

  /** Every sentence, working and reference of the examples, in their order; read by a person when they change. */
  @Test
  void theWordsAreThoseThatWereRead() throws IOException {
    List<String> said = new ArrayList<>();
    for (String example : examples().toList()) {
      CriteriaDocTest one = new CriteriaDocTest();
      one.theExampleComesOutAsTheDocumentSays(example);
      one.asked.forEach(o -> said.add(words(o)));
    }
    if (Boolean.getBoolean("words.write")) {
      Files.writeString(WORDS, String.join("\n", said) + "\n");
    }
    assertThat(String.join("\n", said) + "\n").isEqualTo(Files.readString(WORDS));
  }

  private static String words(Outcome o) {
    String facts =
        o.facts().stream().map(f -> f.kind() + "/" + f.key()).collect(Collectors.joining(" "));
    return o.criterion().code() + " " + o.state().code() + "\n  " + o.sentence() + "\n  " + o.why()
        + "\n  " + facts;
  }

  @Test
  void everyCriterionIsThereWithAnExample() throws IOException {
    String doc = Files.readString(DOC);
    for (CriterionCode code : CriterionCode.values()) {
      assertThat(doc).contains("`" + code.code() + "`").contains("=> " + code.code() + " ");
    }
  }

  private final Given g = Given.estate();
  private final List<Outcome> asked = new ArrayList<>();
  private Standard standard = Standard.shipped();
  private final Notation notation = new PlainNotation();
  private final FactReader reader = new FactReader("feed", NOW, notation);

  @ParameterizedTest
  @MethodSource("examples")
  void theExampleComesOutAsTheDocumentSays(String example) {
    for (String line : example.split("\n")) {
      if (line.startsWith("=> ")) {
        check(line.substring(3));
      } else if (!line.isBlank()) {
        given(line);
      }
    }
    assertThat(asked).isNotEmpty();
  }

  private static Map<String, String> fields(String[] words, int from) {
    Map<String, String> fields = new LinkedHashMap<>();
    for (String word : Arrays.copyOfRange(words, from, words.length)) {
      String[] pair = word.split("=", 2);
      String value = pair[1].replace('_', ' ');
      if (value.matches("[+-]\\d+[smhdw]")) {
        Duration by = Values.duration(value.substring(1));
        value = (value.startsWith("-") ? NOW.minus(by) : NOW.plus(by)).toString();
      }
      fields.put(pair[0], value);
    }
    return fields;
  }

  private RawRow changed(Map<String, String> row, Map<String, String> fields) {
    Map<String, String> all = new HashMap<>(row);
    all.putAll(fields);
    all.values().removeIf(String::isBlank);
    return new RawRow(1, all);
  }

  private <T> T read(FactReader.Read<T> read) {
    assertThat(read.rejections()).isEmpty();
    return read.fact();
  }

  private void given(String line) {
    String[] words = line.split(" ");
    switch (words[0]) {
      case "tier" -> g.workloads.set(0, Given.workload("w", Integer.valueOf(words[1])));
      case "strict" -> standard = ShippedStandards.strict();
      case "regions" ->
        standard = new Standard(
            "S",
            1,
            standard.period(),
            standard.zone(),
            standard.tiers(),
            Map.of(words[1], List.of(words[2])),
            List.of());
      case "workload" ->
        g.workloads.set(
            0,
            read(reader.read(
                FactKinds.WORKLOADS,
                "doc",
                changed(FactKinds.WORKLOADS.row(g.workloads.get(0), notation), fields(words, 1)))));
      case "resource" -> resource(fields(words, 1));
      case "store" -> store(words[1], fields(words, 2));
      case "no-policy" -> g.policies.clear();
      case "no-store" -> g.stores.removeIf(s -> s.key().equals(words[1]));
      case "policy" -> policy(fields(words, 1));
      case "point" -> point(words[1], fields(words, 2));
      case "copy" -> copy(words[1], words[2], fields(words, 3));
      case "job" -> job(words[1], fields(words, 2));
      case "drill" ->
        g.drill(
            words[1],
            words[5],
            Coded.of(Method.class, words[2]),
            words[3].equals("passed"),
            Values.duration(words[4].substring(1)).toMinutes() / 1440.0,
            words[3].equals("passed") ? null : words[1],
            words[3].equals("passed") ? null : words[5]);
      case "listed" -> g.listed(words[1], words[2], Coded.of(CensusState.class, words[3]));
      case "rehearsal" ->
        g.rehearsed(Coded.of(RehearsalFact.Outcome.class, words[1]), Values.duration(words[2]));
      case "feed" -> feed(words);
      default -> throw new IllegalArgumentException("the document says '" + line + "'");
    }
  }

  /** Its rhythm, when it came, and up to when it has spoken where the document says so. */
  private void feed(String[] words) {
    Duration every = words[1].equals("no-rhythm") ? null : Values.duration(words[1]);
    Instant horizon = words.length < 4 ? null : Instant.parse(fields(words, 3).get("spoke"));
    g.feeds.clear();
    g.feeds.add(
        new Feed("feed", every, NOW.minus(Values.duration(words[2].substring(1))), horizon));
  }

  private void resource(Map<String, String> fields) {
    String since = fields.remove("missing_since");
    Resource r = read(reader.read(
        FactKinds.RESOURCES,
        "doc",
        changed(FactKinds.RESOURCES.row(g.resources.get(0), notation), fields)));
    g.resources.set(0, since == null ? r : r.missing(Instant.parse(since)));
  }

  private void store(String key, Map<String, String> fields) {
    int at = key.equals("near") ? 0 : 1;
    Store changed = read(reader.read(
        FactKinds.STORES,
        "doc",
        changed(FactKinds.STORES.row(g.stores.get(at), notation), fields)));
    g.stores.set(at, changed);
  }

  private void policy(Map<String, String> fields) {
    Map<String, String> row = new HashMap<>(Map.of("key", "p", "name", "Daily"));
    Policy policy = read(reader.read(FactKinds.POLICIES, "doc", changed(row, fields)));
    g.policies.clear();
    g.policies.add(policy);
  }

  private void point(String key, Map<String, String> fields) {
    Map<String, String> row = new HashMap<>(Map.of(
        "key",
        key,
        "resource",
        "r",
        "policy",
        "p",
        "form",
        "full",
        "outcome",
        "complete",
        "consistency",
        "file"));
    boolean copies = !"none".equals(fields.remove("copies"));
    RecoveryPoint point = read(reader.read(FactKinds.POINTS, "doc", changed(row, fields)));
    g.points.add(point);
    if (copies) {
      g.copy(key, "near").copy(key, "far");
    }
  }

  private void copy(String point, String store, Map<String, String> fields) {
    Copy known = g.copies.stream()
        .filter(c -> c.point().equals(point) && c.store().equals(store))
        .findFirst()
        .orElseThrow();
    g.copies.set(
        g.copies.indexOf(known),
        read(reader.read(
            FactKinds.COPIES, "doc", changed(FactKinds.COPIES.row(known, notation), fields))));
  }

  private void job(String key, Map<String, String> fields) {
    Map<String, String> row = new HashMap<>(Map.of("key", key, "type", "backup", "resource", "r"));
    Job job = read(reader.read(FactKinds.JOBS, "doc", changed(row, fields)));
    g.jobs.add(job);
  }

  private void check(String expected) {
    String[] words = expected.split(" ", 3);
    CriterionCode code = Coded.of(CriterionCode.class, words[0]);
    List<Outcome> outcomes =
        Criteria.evaluate(new Subject(g.at(NOW), standard, g.resources.get(0)));
    assertThat(outcomes).allSatisfy(CriteriaDocTest::theWorkingIsTrue);
    Outcome outcome =
        outcomes.stream().filter(o -> o.criterion() == code).findFirst().orElseThrow();
    asked.add(outcome);
    String figures = (outcome.measured() == null ? "–" : outcome.measured().words()) + " / "
        + (outcome.demanded() == null ? "–" : outcome.demanded().words());
    for (Measure figure : new Measure[] {outcome.measured(), outcome.demanded()}) {
      assertThat(outcome.why())
          .as("the arithmetic of " + code)
          .contains(figure == null ? "" : figure.words());
    }
    String state = Coded.of(OutcomeState.class, words[1]).code();
    assertThat(outcome.state().code() + " " + figures)
        .as(outcome.sentence() + " (" + BundleFile.POINTS.code() + " " + g.points.size() + ")")
        .isEqualTo(state + " " + (words.length > 2 ? words[2] : "– / –"));
    assertThat(workloadOf(outcome)).isNotNull();
  }

  /** What a working says of its figures is so; what was demanded in vain is called so. */
  private static void theWorkingIsTrue(Outcome outcome) {
    String said = outcome.why().replace("demanded ≤", "");
    boolean aSizeNearTheMedian = outcome.criterion() == CriterionCode.SOUND_SIZE;
    if (outcome.state() == OutcomeState.NOT_MET) {
      assertThat(said).as("%s", outcome.criterion()).doesNotContain("≤", "≥");
    } else if (outcome.state() == OutcomeState.MET && !aSizeNearTheMedian) {
      assertThat(said).as("%s", outcome.criterion()).doesNotContain(" > ", " < ");
    }
  }

  private Workload workloadOf(Outcome outcome) {
    return g.resources.stream()
        .filter(r -> r.key().equals(outcome.resource()))
        .map(r -> g.at(NOW).workload(r.workload()))
        .findFirst()
        .orElse(null);
  }
}
