package hardproof.server.evidence;

import com.openhtmltopdf.extend.FSSupplier;
import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.outputdevice.helper.ExternalResourceControlPriority;
import com.openhtmltopdf.pdfboxout.PdfBoxRenderer;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.slf4j.Slf4jLogger;
import com.openhtmltopdf.svgsupport.BatikSVGDrawer;
import com.openhtmltopdf.util.XRLog;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayDeque;
import java.util.Calendar;
import java.util.Collections;
import java.util.Deque;
import java.util.GregorianCalendar;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.TimeZone;
import org.apache.pdfbox.cos.COSArray;
import org.apache.pdfbox.cos.COSBase;
import org.apache.pdfbox.cos.COSDictionary;
import org.apache.pdfbox.cos.COSName;
import org.apache.pdfbox.cos.COSObject;
import org.apache.pdfbox.cos.COSStream;
import org.apache.pdfbox.pdfwriter.compress.CompressParameters;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.common.PDMetadata;
import org.apache.xmpbox.XMPMetadata;
import org.apache.xmpbox.schema.XMPBasicSchema;
import org.apache.xmpbox.xml.DomXmpParser;
import org.apache.xmpbox.xml.XmpParsingException;
import org.apache.xmpbox.xml.XmpSerializer;

/**
 * The report as PDF/A-2A and PDF/UA-1, from the same page as the HTML. The same page and instant always give the same
 * bytes, on every machine: nothing in it is compressed, as what compresses differs from machine to machine, and a pack
 * is zipped anyway.
 */
final class ReportPdf {
  private static final String FOLDER = "/evidence/";

  static {
    XRLog.setLoggerImpl(new Slf4jLogger());
  }

  private ReportPdf() {}

  /**
   * @param html well-formed; nothing outside of it is fetched
   * @param when stands in it as the time at which it was made
   */
  static byte[] of(String html, Instant when) throws IOException {
    PdfRendererBuilder builder = new PdfRendererBuilder();
    // PDF/UA-1 asks for what a picture shows by another name than HTML.
    builder.withHtmlContent(readable(html).replace("role=\"img\" aria-label=", "alt="), null);
    builder.usePdfAConformance(PdfRendererBuilder.PdfAConformance.PDFA_2_A);
    builder.usePdfUaAccessibility(true);
    builder.useColorProfile(bytes("srgb.icc"));
    font(builder, "DejaVuSans.ttf", "DejaVu Sans", 400);
    font(builder, "DejaVuSans-Bold.ttf", "DejaVu Sans", 700);
    font(builder, "DejaVuSansMono.ttf", "DejaVu Sans Mono", 400);
    try (BatikSVGDrawer svg = new BatikSVGDrawer()) {
      builder.useSVGDrawer(svg);
      for (ExternalResourceControlPriority priority : ExternalResourceControlPriority.values()) {
        builder.useExternalResourceAccessControl((uri, type) -> false, priority);
      }
      try (PdfBoxRenderer renderer = builder.buildPdfRenderer();
          PDDocument document = renderer.createPDFKeepOpen()) {
        date(document, when);
        return written(document);
      }
    }
  }

  private static void font(PdfRendererBuilder builder, String file, String family, int weight) {
    FSSupplier<InputStream> stream =
        () -> ReportPdf.class.getResourceAsStream(FOLDER + "fonts/" + file);
    builder.useFont(stream, family, weight, FontStyle.NORMAL, true);
  }

  private static byte[] bytes(String resource) throws IOException {
    try (InputStream in = ReportPdf.class.getResourceAsStream(FOLDER + resource)) {
      return in.readAllBytes();
    }
  }

  /** What XML can't hold, whatever somebody typed. */
  private static String readable(String html) {
    StringBuilder text = new StringBuilder(html.length());
    html.codePoints()
        .map(c -> c == '\t' || c == '\n' || c == '\r' || allowed(c) ? c : 0xFFFD)
        .forEach(text::appendCodePoint);
    return text.toString();
  }

  private static boolean allowed(int c) {
    return c >= 0x20 && c != 0xFFFE && c != 0xFFFF && (c < 0xD800 || c > 0xDFFF);
  }

  private static void date(PDDocument document, Instant when) throws IOException {
    Calendar time = GregorianCalendar.from(when.atZone(ZoneOffset.UTC));
    time.setTimeZone(TimeZone.getTimeZone("UTC"));
    document.getDocumentInformation().setCreationDate(time);
    document.getDocumentInformation().setModificationDate(time);
    PDMetadata metadata = document.getDocumentCatalog().getMetadata();
    try {
      DomXmpParser parser = new DomXmpParser();
      parser.setStrictParsing(false);
      XMPMetadata xmp = parser.parse(metadata.toByteArray());
      XMPBasicSchema basic = xmp.getXMPBasicSchema();
      if (basic != null) {
        basic.setCreateDate(time);
        basic.setModifyDate(time);
        basic.setMetadataDate(time);
      }
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      new XmpSerializer().serialize(xmp, out, true);
      metadata.importXMPMetadata(out.toByteArray());
    } catch (XmpParsingException | javax.xml.transform.TransformerException e) {
      throw new IOException("the metadata of the report can't be dated: " + e.getMessage(), e);
    }
    document.setDocumentId(when.toEpochMilli());
  }

  private static byte[] written(PDDocument document) throws IOException {
    // What is left of each font is known only when it is saved.
    document.save(OutputStream.nullOutputStream());
    unpack(document.getDocument().getTrailer());
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    document.save(out, CompressParameters.NO_COMPRESSION);
    return out.toByteArray();
  }

  /** Every stream that can be reached. */
  private static void unpack(COSBase root) throws IOException {
    Set<COSBase> seen = Collections.newSetFromMap(new IdentityHashMap<>());
    Deque<COSBase> left = new ArrayDeque<>(List.of(root));
    while (!left.isEmpty()) {
      COSBase next = left.pop();
      COSBase object = next instanceof COSObject reference ? reference.getObject() : next;
      if (object == null || !seen.add(object)) {
        continue;
      }
      if (object instanceof COSDictionary dictionary) {
        left.addAll(dictionary.getValues());
      } else if (object instanceof COSArray array) {
        array.forEach(left::push);
      }
      if (object instanceof COSStream stream) {
        unpack(stream);
      }
    }
  }

  private static void unpack(COSStream stream) throws IOException {
    if (COSName.FLATE_DECODE.equals(stream.getDictionaryObject(COSName.FILTER))) {
      byte[] content;
      try (InputStream in = stream.createInputStream()) {
        content = in.readAllBytes();
      }
      stream.removeItem(COSName.FILTER);
      stream.removeItem(COSName.DECODE_PARMS);
      try (OutputStream out = stream.createOutputStream()) {
        out.write(content);
      }
    }
  }
}
