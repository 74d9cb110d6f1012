package hardproof.server.reports;

import hardproof.core.reports.ReportTable;
import hardproof.core.wording.Wording;
import java.io.ByteArrayOutputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.thymeleaf.TemplateEngine;
import org.thymeleaf.context.Context;
import org.thymeleaf.templatemode.TemplateMode;
import org.thymeleaf.templateresolver.ClassLoaderTemplateResolver;
import tools.jackson.core.JsonGenerator;
import tools.jackson.databind.json.JsonMapper;

/** A report of tables as a page, as CSV, as JSON and as the text of a mail: the same words in each. */
final class ReportFiles {
  /** A page shows so many rows of a table; the files have all of them. */
  static final int SHOWN = 1_000;

  private static final int IN_MAIL = 20;
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final TemplateEngine ENGINE = engine();

  private ReportFiles() {}

  private static TemplateEngine engine() {
    ClassLoaderTemplateResolver templates = new ClassLoaderTemplateResolver();
    templates.setPrefix("reports/");
    templates.setSuffix(".html");
    templates.setTemplateMode(TemplateMode.HTML);
    templates.setCharacterEncoding("UTF-8");
    TemplateEngine engine = new TemplateEngine();
    engine.setTemplateResolver(templates);
    return engine;
  }

  /** A table as the page shows it. */
  record Shown(
      String title, List<String> columns, List<List<String>> rows, String none, String more) {}

  static String html(ReportContents contents) {
    Context context = new Context(Locale.ENGLISH);
    context.setVariable("title", contents.title());
    context.setVariable("kind", contents.kind().words());
    context.setVariable("period", contents.period());
    context.setVariable("scope", contents.scope());
    context.setVariable("standard", contents.standard());
    context.setVariable("zone", contents.zone());
    context.setVariable(
        "tables", contents.tables().stream().map(t -> shown(t, contents.asAt())).toList());
    context.setVariable(
        "pictures",
        contents.pictures().stream()
            .map(p -> Map.of(
                "caption",
                p.caption(),
                "source",
                "data:image/png;base64," + Base64.getEncoder().encodeToString(p.png())))
            .toList());
    return ENGINE.process("report", context);
  }

  private static Shown shown(ReportTable table, Instant asAt) {
    List<List<String>> rows = new ArrayList<>();
    table.rows().stream()
        .limit(SHOWN)
        .forEach(row -> rows.add(row.stream().map(cell -> text(cell, asAt)).toList()));
    int more = table.rows().size() - rows.size();
    return new Shown(
        table.title(),
        table.columns().stream().map(c -> c.replace('_', ' ')).toList(),
        rows,
        table.none(),
        more == 0
            ? ""
            : "These are the first " + SHOWN + " rows; " + more
                + " more are in the CSV and the JSON.");
  }

  private static String text(@Nullable Object cell, Instant asAt) {
    return cell == null
        ? ""
        : cell instanceof Instant at ? Wording.time(at, asAt) : cell.toString();
  }

  static byte[] csv(ReportTable table) {
    return table.csv().getBytes(StandardCharsets.UTF_8);
  }

  /** Instants as RFC 3339 in UTC, durations in the unit that the name of the column ends with. */
  static byte[] json(ReportContents contents) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (JsonGenerator out = JSON.createGenerator(bytes)) {
      out.writeStartObject();
      out.writeStringProperty("title", contents.title());
      out.writeStringProperty("kind", contents.kind().code());
      out.writeStringProperty("scope", contents.scope());
      instant(out, "from", contents.from());
      instant(out, "as_at", contents.asAt());
      instant(out, "until", contents.until());
      out.writeStringProperty("standard", contents.standard());
      out.writeStringProperty("zone_of_standard", contents.zone());
      out.writeObjectPropertyStart("tables");
      contents.tables().forEach(table -> write(out, table));
      out.writeEndObject();
      out.writeEndObject();
    }
    return bytes.toByteArray();
  }

  private static void instant(JsonGenerator out, String name, @Nullable Instant at) {
    if (at != null) {
      out.writeStringProperty(name, at.toString());
    }
  }

  private static void write(JsonGenerator out, ReportTable table) {
    out.writeArrayPropertyStart(table.name());
    for (List<Object> row : table.rows()) {
      out.writeStartObject();
      for (int i = 0; i < row.size(); i++) {
        out.writeName(table.columns().get(i));
        cell(out, row.get(i));
      }
      out.writeEndObject();
    }
    out.writeEndArray();
  }

  private static void cell(JsonGenerator out, @Nullable Object cell) {
    if (cell == null) {
      out.writeNull();
    } else if (cell instanceof BigDecimal number) {
      out.writeNumber(number);
    } else if (cell instanceof Number number) {
      out.writeNumber(number.longValue());
    } else {
      out.writeString(cell.toString());
    }
  }

  /** For whoever reads it as mail: each table with its first rows in words. */
  static String words(ReportContents contents) {
    StringBuilder text = new StringBuilder(contents.kind().words())
        .append(", ")
        .append(contents.period())
        .append(".\nScope: ")
        .append(contents.scope())
        .append(". Standard: ")
        .append(contents.standard())
        .append(", its calendar is ")
        .append(contents.zone())
        .append(".\n");
    for (ReportTable table : contents.tables()) {
      text.append('\n').append(table.title()).append(": ");
      if (table.rows().isEmpty()) {
        text.append(table.none()).append('\n');
        continue;
      }
      text.append(table.rows().size()).append('\n');
      table.rows().stream()
          .limit(IN_MAIL)
          .forEach(
              row -> text.append("- ").append(line(table, row, contents.asAt())).append('\n'));
      if (table.rows().size() > IN_MAIL) {
        text.append("and ").append(table.rows().size() - IN_MAIL).append(" more\n");
      }
    }
    return text.toString();
  }

  /** A row in one line: when, what it is about, and what is said of it. */
  private static String line(ReportTable table, List<Object> row, Instant asAt) {
    List<String> parts = new ArrayList<>();
    for (String column : List.of(
        "at",
        "ended",
        "started",
        "lapses",
        "until",
        "name",
        "exception",
        "outcome",
        "verdict",
        "state",
        "reason",
        "sentence",
        "message")) {
      int i = table.columns().indexOf(column);
      if (i >= 0 && row.get(i) != null) {
        parts.add(text(row.get(i), asAt).replaceAll("\\p{Cntrl}+", " "));
      }
    }
    return String.join(" · ", parts);
  }
}
