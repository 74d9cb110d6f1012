package hardproof.proving.directories;

import com.unboundid.ldap.listener.InMemoryDirectoryServer;
import com.unboundid.ldap.listener.InMemoryDirectoryServerConfig;
import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.RDN;
import hardproof.core.wording.Wording;
import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.checks.Restored;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** Entries of a directory, loaded into a server in memory that listens on no port. */
public final class RestoredDirectory implements Restored {
  private final InMemoryDirectoryServer server;
  private final Map<DN, Entry> entries;
  private final List<DN> tops;
  private RestoredDirectory reference;

  /** The entries can't be loaded: what is wrong, for people. */
  public static final class Unloadable extends Exception {
    private static final long serialVersionUID = 1L;

    Unloadable(String message, Throwable cause) {
      super(message, cause);
    }
  }

  private RestoredDirectory(InMemoryDirectoryServer server, Map<DN, Entry> entries, List<DN> tops) {
    this.server = server;
    this.entries = entries;
    this.tops = tops;
  }

  /**
   * Loads every entry of an LDIF file.
   *
   * @throws Unloadable naming the line or the entry
   */
  public static RestoredDirectory load(Path ldif, Runnable stopIfCancelled)
      throws Unloadable, IOException {
    refuseWhatLeadsOut(ldif);
    Map<DN, Entry> entries = LdifEntries.read(ldif, stopIfCancelled);
    if (entries.isEmpty()) {
      throw new Unloadable("it holds no entry", null);
    }
    new LdifWholeness(ldif, entries).check();
    try {
      return serve(entries);
    } catch (LDAPException e) {
      throw new Unloadable(
          "the directory server refused an entry (" + e.getResultCode().getName() + ")", e);
    }
  }

  private static void refuseWhatLeadsOut(Path ldif)
      throws IOException, RestoredDirectory.Unloadable {
    int out = LdifGuard.lineThatLeadsOut(ldif);
    if (out > 0) {
      throw new Unloadable(
          "line " + out + " takes its value from a place elsewhere (\":<\"), which is refused",
          null);
    }
  }

  private static RestoredDirectory serve(Map<DN, Entry> entries) throws LDAPException {
    List<DN> tops = tops(entries);
    InMemoryDirectoryServerConfig config =
        new InMemoryDirectoryServerConfig(tops.toArray(DN[]::new));
    config.setSchema(null);
    config.setGenerateOperationalAttributes(false);
    InMemoryDirectoryServer server = new InMemoryDirectoryServer(config);
    List<Map.Entry<DN, Entry>> parentsFirst = new ArrayList<>(entries.entrySet());
    parentsFirst.sort(Comparator.comparingInt(e -> e.getKey().getRDNs().length));
    for (Map.Entry<DN, Entry> entry : parentsFirst) {
      server.add(entry.getValue());
    }
    return new RestoredDirectory(server, entries, tops);
  }

  private static List<DN> tops(Map<DN, Entry> entries) {
    List<DN> tops = new ArrayList<>();
    for (DN dn : entries.keySet()) {
      DN parent = dn.getParent();
      if (parent == null || !entries.containsKey(parent)) {
        tops.add(dn);
      }
    }
    return tops;
  }

  public int size() {
    return entries.size();
  }

  /** The entries that no other entry is above. */
  public List<String> tops() {
    return tops.stream().map(DN::toString).toList();
  }

  /** Compares with what an older point held from now on. */
  public void compareWith(RestoredDirectory older) {
    this.reference = older;
  }

  /** Members of groups that are no entry here, by group; few or none in a whole directory. */
  public List<String> danglingMembers() {
    List<String> dangling = new ArrayList<>();
    for (Entry entry : entries.values()) {
      for (String name : List.of("member", "uniqueMember")) {
        String[] members = entry.getAttributeValues(name);
        for (String member : members == null ? new String[0] : members) {
          if (!known(member)) {
            dangling.add(entry.getDN() + " has the member " + member + ", which is not there");
          }
        }
      }
    }
    return dangling;
  }

  private boolean known(String dn) {
    try {
      return entries.containsKey(new DN(dn));
    } catch (LDAPException e) {
      return false;
    }
  }

  /** How the entries differ from those of the older point; null when none was given. */
  public DirectoryDifference difference() {
    return reference == null ? null : DirectoryDifference.of(reference.entries, entries);
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.DIRECTORY);
  }

  @Override
  public Answer ask(Check check, Instant dataTime) {
    try {
      return switch (check.type()) {
        case ENTRIES_AT_LEAST -> {
          int found = matching(Filter.create(check.subject())).size();
          yield Answer.of(
              check.accepts(Integer.toString(found)),
              Wording.count(found, "entry matches ", "entries match ") + check.subject()
                  + ", at least " + check.expected() + " expected");
        }
        case ENTRY_EQUALS, MARKER_THERE, MARKER_ABSENT -> value(check);
        case ATTRIBUTES_KEPT -> kept(check);
        case EMPTY -> empty();
        default ->
          throw new IllegalArgumentException(check.type() + " is not asked of a directory");
      };
    } catch (LDAPException e) {
      return Answer.notJudged(check.subject() + " is no question that a directory can be asked ("
          + e.getMessage() + ")");
    }
  }

  @Override
  public String value(String question) throws Unanswered {
    int at = question.indexOf('@');
    if (at < 1) {
      throw new Unanswered("names no attribute and entry as attribute@dn");
    }
    try {
      Entry entry = server.getEntry(question.substring(at + 1));
      String value = entry == null ? null : entry.getAttributeValue(question.substring(0, at));
      if (value == null) {
        throw new Unanswered(
            entry == null ? "names an entry that is not there" : "gave nothing: it is not set");
      }
      return value;
    } catch (LDAPException e) {
      throw new Unanswered("is no question that a directory can be asked: " + e.getMessage());
    }
  }

  private List<Entry> matching(Filter filter) throws LDAPException {
    List<Entry> found = new ArrayList<>();
    for (Entry entry : entries.values()) {
      if (filter.matchesEntry(entry)) {
        found.add(entry);
      }
    }
    return found;
  }

  private Answer value(Check check) throws LDAPException {
    int at = check.subject().indexOf('@');
    if (at < 1) {
      return Answer.of(false, "name the attribute and its entry as attribute@dn");
    }
    String attribute = check.subject().substring(0, at);
    String dn = check.subject().substring(at + 1);
    Entry entry = server.getEntry(dn);
    String[] values = entry == null ? null : entry.getAttributeValues(attribute);
    List<String> found = values == null ? List.of() : List.of(values);
    boolean there = found.contains(check.expected());
    String what = entry == null
        ? dn + " is not there"
        : found.isEmpty()
            ? dn + " has no " + attribute
            : attribute + " of " + dn + " is " + String.join(", ", found);
    boolean passed = check.type() == CheckType.MARKER_ABSENT ? !there : there;
    return Answer.of(
        passed,
        what
            + (passed
                ? ""
                : "; " + check.expected()
                    + (check.type() == CheckType.MARKER_ABSENT
                        ? " should not be there"
                        : " was expected")));
  }

  private Answer kept(Check check) throws LDAPException {
    if (reference == null) {
      return Answer.notJudged("there is no older point to compare with");
    }
    Set<String> names = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
    for (String name : check.expected().split(",")) {
      names.add(name.strip());
    }
    Filter filter = Filter.create(check.subject());
    List<String> lost = new ArrayList<>();
    int compared = 0;
    for (Map.Entry<DN, Entry> before : reference.entries.entrySet()) {
      Entry now = entries.get(before.getKey());
      if (now == null || !filter.matchesEntry(before.getValue())) {
        continue;
      }
      compared++;
      for (Attribute attribute : before.getValue().getAttributes()) {
        boolean asked = names.contains("*") || names.contains(attribute.getBaseName());
        if (asked && !now.hasAttribute(attribute.getName())) {
          lost.add(rdn(before.getKey()) + " lost " + attribute.getName());
        }
      }
    }
    String compare =
        Wording.count(compared, "entry", "entries") + " compared with the point before";
    return Answer.of(
        lost.isEmpty() && compared > 0,
        compare
            + (lost.isEmpty()
                ? compared == 0 ? ": nothing was compared" : ", none lost an attribute"
                : ": " + String.join(", ", lost.subList(0, Math.min(5, lost.size())))
                    + (lost.size() > 5 ? ", … (" + lost.size() + ")" : "")));
  }

  private Answer empty() {
    return Answer.of(
        false,
        "it is said to be empty, and holds " + Wording.count(entries.size(), "entry", "entries"));
  }

  private static String rdn(DN dn) {
    RDN[] parts = dn.getRDNs();
    return parts.length == 0 ? dn.toString() : parts[0].toString();
  }

  @Override
  public void close() {
    server.close();
  }
}
