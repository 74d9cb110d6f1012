package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import hardproof.core.estate.Selector;
import hardproof.server.WithEstate;
import java.awt.color.ColorSpace;
import java.awt.color.ICC_ColorSpace;
import java.awt.color.ICC_Profile;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.unbescape.html.HtmlEscape;
import org.verapdf.gf.foundry.VeraGreenfieldFoundryProvider;
import org.verapdf.pdfa.Foundries;
import org.verapdf.pdfa.PDFAParser;
import org.verapdf.pdfa.PDFAValidator;
import org.verapdf.pdfa.flavours.PDFAFlavour;
import org.verapdf.pdfa.results.TestAssertion;
import org.verapdf.pdfa.results.ValidationResult;

class ReportPdfTest extends WithEstate {
  private static final Instant WHEN = Instant.parse("2026-11-24T10:01:00Z");

  @BeforeAll
  static void foundry() {
    VeraGreenfieldFoundryProvider.initialise();
  }

  private String html(String title) {
    return estate
        .installation
        .part(PackBuilder.class)
        .reportHtml(estate
            .installation
            .part(PackBuilder.class)
            .contents(estate.installation.evaluations().now(), title, Selector.EVERYTHING, "A"));
  }

  private static List<String> faults(byte[] pdf, PDFAFlavour flavour) throws Exception {
    try (PDFAParser parser =
            Foundries.defaultInstance().createParser(new ByteArrayInputStream(pdf), flavour);
        PDFAValidator validator = Foundries.defaultInstance().createValidator(flavour, false)) {
      ValidationResult result = validator.validate(parser);
      assertThat(result.getTestAssertions().size() + result.getTotalAssertions())
          .isPositive();
      return result.getTestAssertions().stream()
          .filter(a -> a.getStatus() == TestAssertion.Status.FAILED)
          .map(a -> a.getRuleId().getClause() + " " + a.getMessage())
          .distinct()
          .toList();
    }
  }

  /** veraPDF, which is not ours: ISO 19005-2 level A, and ISO 14289-1. */
  @Test
  void veraPdfFindsThatItIsForTheArchiveAndForEverybody() throws Exception {
    byte[] pdf = ReportPdf.of(html("Recoverability"), WHEN);
    assertThat(faults(pdf, PDFAFlavour.PDFA_2_A)).isEmpty();
    assertThat(faults(pdf, PDFAFlavour.PDFUA_1)).isEmpty();
  }

  private static String text(byte[] pdf) throws IOException {
    try (var document = Loader.loadPDF(pdf)) {
      return new PDFTextStripper().getText(document);
    }
  }

  private static String textOf(String html) {
    return html.replaceAll("(?s)<(style|title|svg)[^>]*>.*?</\\1>", "")
        .replaceAll("(?s)<[^>]+>", " ")
        .replace("&lt;", "<")
        .replace("&gt;", ">")
        .replace("&quot;", "\"")
        .replace("&#39;", "'")
        .replace("&amp;", "&");
  }

  /** How often each word is there; lines break where they will, and so does what is too long for one. */
  private static Map<String, Long> words(String text) {
    return Arrays.stream(text.split("[^\\p{L}\\p{N}]+"))
        .filter(w -> !w.isEmpty())
        .collect(Collectors.groupingBy(w -> w, TreeMap::new, Collectors.counting()));
  }

  /** A font that is not there would leave words out, and no validator would notice. */
  @Test
  void itSaysWhatTheHtmlSaysWordForWord() throws IOException {
    String html = html("A <title> & \"more\"");
    Map<String, Long> said = words(textOf(html));
    Map<String, Long> read =
        words(text(ReportPdf.of(html, WHEN)).replaceAll("page \\d+ of \\d+", ""));
    // Heads of tables stand again on each page that a table goes on to.
    Set<String> heads = words(
            "Criterion Outcome Measured Demanded In words, with the arithmetic Control State Outcomes Not looked at")
        .keySet();
    said.forEach(
        (word, n) -> assertThat(read.getOrDefault(word, 0L)).as(word).isGreaterThanOrEqualTo(n));
    read.forEach((word, n) -> {
      if (!heads.contains(word)) {
        assertThat(said.get(word)).as(word).isEqualTo(n);
      }
    });
  }

  @Test
  void theSamePageGivesTheSameBytesAndNoneIsPacked() throws IOException {
    byte[] pdf = ReportPdf.of(html("T"), WHEN);
    assertThat(ReportPdf.of(html("T"), WHEN)).isEqualTo(pdf);
    assertThat(new String(pdf, StandardCharsets.ISO_8859_1).contains("FlateDecode"))
        .isFalse();
  }

  @Test
  void theFirstPageIsTheSummary() throws IOException {
    try (var document = Loader.loadPDF(ReportPdf.of(html("T"), WHEN))) {
      PDFTextStripper first = new PDFTextStripper();
      first.setEndPage(1);
      assertThat(first.getText(document))
          .contains("What is worst", "Head of the ledger", "What changed since")
          .doesNotContain("Verdicts and outcomes");
      assertThat(document.getDocumentInformation().getTitle()).isEqualTo("T");
    }
  }

  @Test
  void whatSomebodyTypedIsTextAndNeverStopsIt() throws Exception {
    String title = "שלום \u0001\uFFFE 日本 <script>alert(1)</script> =1+1 " + "x".repeat(10_000);
    String html = html("T").replace("Wages", HtmlEscape.escapeHtml4Xml(title));
    byte[] pdf = ReportPdf.of(html, WHEN);
    assertThat(text(pdf).replaceAll("\\s+", "")).contains("alert(1)</script>", "xxxxxxxx");
    assertThat(faults(pdf, PDFAFlavour.PDFA_2_A)).isEmpty();
  }

  /** What it is made of could name files and servers. */
  @Test
  void nothingOutsideOfItIsFetched() throws IOException {
    List<String> asked = new CopyOnWriteArrayList<>();
    HttpServer server =
        HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext("/", exchange -> {
      asked.add(exchange.getRequestURI().toString());
      exchange.sendResponseHeaders(404, -1);
      exchange.close();
    });
    server.start();
    try {
      String to = "http://localhost:" + server.getAddress().getPort();
      String html = html("T")
          .replaceFirst(
              Pattern.quote("</head>"),
              "<link rel=\"stylesheet\" href=\"" + to + "/a.css\"/>"
                  + "<style>@import url('" + to + "/b.css'); body { background: url('" + to
                  + "/c.png') }</style></head>")
          .replaceFirst("<h1", "<img src=\"" + to + "/d.png\" alt=\"d\"/><h1");
      assertThat(ReportPdf.of(html, WHEN)).isNotEmpty();
      assertThat(asked).isEmpty();
    } finally {
      server.stop(0);
    }
  }

  /** Held to the sRGB that comes with the platform. */
  @Test
  void theColourProfileIsThatOfSrgb() throws IOException {
    ICC_ColorSpace ours = new ICC_ColorSpace(
        ICC_Profile.getInstance(ReportPdf.class.getResourceAsStream("/evidence/srgb.icc")));
    ColorSpace theirs = ColorSpace.getInstance(ColorSpace.CS_sRGB);
    for (float[] colour : new float[][] {
      {0, 0, 0}, {1, 1, 1}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {.043f, .431f, .431f}, {.5f, .2f, .8f}
    }) {
      float[] a = ours.toCIEXYZ(colour);
      float[] b = theirs.toCIEXYZ(colour);
      for (int i = 0; i < 3; i++) {
        assertThat(a[i]).isCloseTo(b[i], org.assertj.core.data.Offset.offset(0.005f));
      }
    }
  }
}
