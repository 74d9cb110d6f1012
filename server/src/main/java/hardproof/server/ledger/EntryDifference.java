package hardproof.server.ledger;

import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Whether what entries tell of is still as they tell. */
record EntryDifference(RecordedFacts facts) {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int SAID = 120;

  /** In words, with what was and what is; empty where nothing differs. */
  Optional<String> of(LedgerEntry entry, JsonNode body) {
    if (entry.kind().one() == null) {
      return Optional.empty();
    }
    String what =
        "entry " + entry.number() + ", " + entry.kind().words() + " " + entry.key() + ": ";
    Optional<LedgerEntry.Recorded> now = facts.find(entry.kind(), entry.key());
    if (now.isEmpty()) {
      return Optional.of(what + "it is not there any more");
    }
    LedgerEntry again =
        LedgerEntry.of(entry.number(), entry.kind(), entry.key(), now.get(), body.has("recorded"));
    return again.body().equals(entry.body())
        ? Optional.empty()
        : Optional.of(what + different(body, JSON.readTree(again.body())));
  }

  /** The first field that is another, with both. */
  private static String different(JsonNode recorded, JsonNode now) {
    for (String of : List.of("content", "")) {
      JsonNode was = of.isEmpty() ? recorded : recorded.path(of);
      JsonNode is = of.isEmpty() ? now : now.path(of);
      Set<String> names = new TreeSet<>(was.propertyNames());
      names.addAll(is.propertyNames());
      for (String name : names) {
        if (!Objects.equals(was.get(name), is.get(name))) {
          return name + " was " + said(was.get(name)) + " when it was recorded and is "
              + said(is.get(name)) + " now";
        }
      }
    }
    return "it is written in other letters";
  }

  private static String said(@Nullable JsonNode value) {
    if (value == null) {
      return "nothing";
    }
    String text = value.isString() ? value.asString() : value.toString();
    return "'" + (text.length() > SAID ? text.substring(0, SAID - 1) + "…" : text) + "'";
  }
}
