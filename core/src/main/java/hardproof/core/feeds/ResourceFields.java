package hardproof.core.feeds;

import static hardproof.core.feeds.FieldType.LIST;
import static hardproof.core.feeds.FieldType.NAME;
import static hardproof.core.feeds.FieldType.PAST;
import static hardproof.core.feeds.FieldType.SIZE;
import static hardproof.core.feeds.FieldType.TAGS;
import static hardproof.core.feeds.FieldType.TEXT;
import static hardproof.core.feeds.FieldType.TIME;
import static hardproof.core.feeds.FieldType.code;

import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;

/** The fields of a resource. */
final class ResourceFields {
  static final FactKind<Resource> KIND = FactKind.of("resource", f -> {
    var key = f.key("key", NAME, Resource::key);
    var name = f.required("name", TEXT, Resource::name);
    var kind = f.required("kind", code(Kind.class), Resource::kind);
    var workload = f.optional("workload", NAME, Resource::workload);
    var parent = f.optional("parent", NAME, Resource::parent);
    var needs = f.optional("needs", LIST, Resource::needs);
    var site = f.optional("site", TEXT, Resource::site);
    var region = f.optional("region", TEXT, Resource::region);
    var environment = f.optional("environment", TEXT, Resource::environment);
    var size = f.optional("size", "size_bytes", SIZE, Resource::sizeBytes);
    var change = f.optional("daily_change", "daily_change_bytes", SIZE, Resource::dailyChangeBytes);
    var first = f.optional("first_seen", PAST, Resource::firstSeen);
    var last = f.optional("last_seen", PAST, Resource::lastSeen);
    var agent = f.optional("agent_seen", PAST, Resource::agentSeen);
    var tags = f.optional("tags", TAGS, Resource::tags);
    var important = f.optional("important_paths", LIST, Resource::importantPaths);
    var missing = f.ours("missing_since", PAST, Resource::missingSince);
    var changed = f.optional("credentials_changed", PAST, Resource::credentialsChanged);
    var tested = f.optional("credentials_tested", PAST, Resource::credentialsTested);
    var keys = f.optional("key_places", LIST, r -> r.restoring().keyPlaces());
    var kit = f.optional("kit", TEXT, r -> r.restoring().kit());
    var kitTried = f.optional("kit_tried", PAST, r -> r.restoring().kitTried());
    var runbook = f.optional("runbook", TEXT, r -> r.restoring().runbook());
    var followed = f.optional("runbook_tried", PAST, r -> r.restoring().runbookTried());
    var licence = f.optional("licence", TEXT, r -> r.restoring().licence());
    var until = f.optional("licence_until", TIME, r -> r.restoring().licenceUntil());
    var restorers = f.optional("restorers", LIST, r -> r.restoring().restorers());
    f.chain(parent, "lies inside itself: its parents lead back to it");
    f.needs(Resource::needs);
    f.speaksOf(Resource::lastSeen);
    f.listed(Resource::missingSince, Resource::missing);
    f.check((v, r) -> {
      r.notBefore(v, last, first, "is before first_seen ");
      if (v.of(parent) != null && v.of(parent).equals(v.of(key))) {
        r.reject("parent", "names the resource itself");
      }
    });
    return v -> new Resource(
        v.of(key),
        v.of(name),
        v.of(kind),
        new Resource.Links(v.of(workload), v.of(parent), v.of(needs)),
        new Resource.Place(v.of(site), v.of(region), v.of(environment)),
        new Resource.Volume(v.of(size), v.of(change)),
        new Resource.Seen(v.of(first), v.of(last), v.of(agent), v.of(missing)),
        new Resource.Credentials(v.of(changed), v.of(tested)),
        v.of(tags),
        v.of(important),
        new Resource.Restoring(
            v.of(keys),
            v.of(kit),
            v.of(kitTried),
            v.of(runbook),
            v.of(followed),
            v.of(licence),
            v.of(until),
            v.of(restorers)),
        v.feed());
  });

  private ResourceFields() {}
}
