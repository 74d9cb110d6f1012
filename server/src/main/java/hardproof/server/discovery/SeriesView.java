package hardproof.server.discovery;

import hardproof.core.discovery.Discovery;
import hardproof.core.estate.Kind;
import hardproof.core.points.Form;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A pattern with what it comes to.
 *
 * @param format by the ending of its names, or by how the newest begins where that says more
 * @param begins what the newest begins like; absent where it was not read, or begins like nothing known
 * @param holds whether the newest stands alone, by what it holds; absent where its name says it, or nothing does
 * @param everyMs the usual time between two of a resource
 */
record SeriesView(
    String pattern,
    boolean ofFolders,
    @Nullable String format,
    @Nullable String begins,
    @Nullable Form holds,
    Kind kind,
    int files,
    List<String> resources,
    Instant first,
    Instant last,
    @Nullable Long everyMs,
    boolean timeOfName,
    boolean formOfName,
    List<String> sample) {
  static SeriesView of(Discovery.Series s, @Nullable String begins, @Nullable Form holds) {
    String format = begins != null && saysLittle(s.format()) ? begins : s.format();
    return new SeriesView(
        s.pattern(),
        s.ofFolders(),
        format,
        begins,
        holds,
        format == null || format.equals(s.format()) ? s.kind() : Discovery.kind(format),
        s.files(),
        s.resources(),
        s.first(),
        s.last(),
        s.every() == null ? null : s.every().toMillis(),
        s.timeOfName(),
        s.formOfName(),
        s.sample());
  }

  /** Nothing, that it is a folder, or that it holds statements: of which database stands in its first lines. */
  private static boolean saysLittle(@Nullable String format) {
    return format == null || format.matches("folder|sql(\\..*)?");
  }
}
