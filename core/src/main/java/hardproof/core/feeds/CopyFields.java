package hardproof.core.feeds;

import static hardproof.core.feeds.FieldType.FORMAT;
import static hardproof.core.feeds.FieldType.NAME;
import static hardproof.core.feeds.FieldType.PASSED;
import static hardproof.core.feeds.FieldType.PAST;
import static hardproof.core.feeds.FieldType.PLACE;
import static hardproof.core.feeds.FieldType.SHA256;
import static hardproof.core.feeds.FieldType.TIME;
import static hardproof.core.feeds.FieldType.code;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;

/** The fields of a copy. */
final class CopyFields {
  static final FactKind<Copy> KIND = FactKind.of("copy", f -> {
    var point = f.key("point", NAME, Copy::point);
    var store = f.key("store", NAME, Copy::store);
    var finished = f.optional("finished", PAST, Copy::finished);
    var state = f.required("state", code(CopyState.class), Copy::state);
    var locked = f.optional("locked_until", TIME, Copy::lockedUntil);
    var expires = f.optional("expires", TIME, Copy::expires);
    var format = f.optional("format", FORMAT, Copy::format);
    var place = f.optional("place", PLACE, Copy::place);
    var sha256 = f.optional("sha256", SHA256, Copy::sha256);
    var manifest = f.optional("manifest", SHA256, Copy::manifest);
    var lastRead = f.optional("last_read", PAST, Copy::lastRead);
    var passed = f.optional("last_read_outcome", "last_read_passed", PASSED, Copy::lastReadPassed);
    f.speaksOf(Copy::finished);
    return v -> new Copy(
        v.of(point),
        v.of(store),
        v.of(finished),
        v.of(state),
        v.of(locked),
        v.of(expires),
        new Copy.Artifact(v.of(format), v.of(place), v.of(sha256), v.of(manifest)),
        new Copy.ReadBack(v.of(lastRead), v.of(passed)),
        v.recordedAt(),
        v.feed());
  });

  private CopyFields() {}
}
