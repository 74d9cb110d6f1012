package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Rejection;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What one file holds against what is known: read = added + changed + unchanged + rejected.
 *
 * @param type null when it is no file of a bundle
 * @param rejections the first of them; {@code rejected} counts all
 * @param fileRejected true when nothing of the file can be taken
 * @param taken whether it was stored
 * @param passedOver rows of a report of which a recipe makes none, in no other count
 * @param notSeen facts that a full listing does not name any more
 * @param toldUntil the instant up to which it speaks; absent where neither the delivery nor a row says one
 */
public record FileResult(
    String file,
    @Nullable BundleFile type,
    long read,
    long added,
    long changed,
    long unchanged,
    long rejected,
    List<Rejection> rejections,
    boolean fileRejected,
    boolean taken,
    long passedOver,
    long notSeen,
    @Nullable Instant toldUntil) {
  static final int REJECTIONS_KEPT = 1000;

  static FileResult none(Rejection why, @Nullable BundleFile type) {
    return new FileResult(why.file(), type, 0, 0, 0, 0, 0, List.of(why), true, false, 0, 0, null);
  }

  FileResult leftOut() {
    return new FileResult(
        file,
        type,
        read,
        added,
        changed,
        unchanged,
        rejected,
        rejections,
        fileRejected,
        false,
        passedOver,
        notSeen,
        toldUntil);
  }
}
