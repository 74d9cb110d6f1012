package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.recipes.Layout;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Workbooks that are unusual, broken or bad: parts of one that openpyxl wrote are put in place of others. */
class WorkbooksTest {
  private static final Path GOOD = Path.of("src/test/resources/reports/since-1904.xlsx");
  private static final String SHEET = "xl/worksheets/sheet1.xml";

  @TempDir
  Path folder;

  /** The same workbook with another sheet. */
  private Path with(Map<String, String> parts) throws IOException {
    Path file = folder.resolve("book.xlsx");
    try (ZipFile zip = new ZipFile(GOOD.toFile());
        ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(file))) {
      for (ZipEntry entry : zip.stream().toList()) {
        out.putNextEntry(new ZipEntry(entry.getName()));
        String other = parts.get(entry.getName());
        out.write(
            other == null
                ? zip.getInputStream(entry).readAllBytes()
                : other.getBytes(StandardCharsets.UTF_8));
      }
      for (String more : parts.keySet()) {
        if (zip.getEntry(more) == null) {
          out.putNextEntry(new ZipEntry(more));
          out.write(parts.get(more).getBytes(StandardCharsets.UTF_8));
        }
      }
    }
    return file;
  }

  private static String sheet(String rows) {
    return "<?xml version=\"1.0\"?><worksheet"
        + " xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><sheetData>" + rows
        + "</sheetData></worksheet>";
  }

  private static List<Map<String, String>> rows(Path file) throws IOException {
    List<Map<String, String>> all = new ArrayList<>();
    try (Rows rows = Rows.report(file, "book.xlsx", Layout.PLAIN, ImportProgress.UNWATCHED)) {
      Rows.Next next;
      while ((next = rows.next()) != null) {
        all.add(new LinkedHashMap<>(next.row().values()));
      }
    }
    return all;
  }

  @Test
  void cellsAreReadAsTheyWereSaved() throws IOException {
    Path file = with(Map.of(
        SHEET,
        sheet("<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>name</t></is></c>"
            + "<c r=\"B1\" t=\"inlineStr\"><is><t>n</t></is></c>"
            + "<c r=\"D1\" t=\"inlineStr\"><is><t>name</t></is></c></row>"
            + "<row r=\"3\"><c r=\"A3\" t=\"str\"><f>UPPER(\"a\")</f><v>A</v></c>"
            + "<c r=\"B3\"><f>1+1</f><v>2</v></c><c r=\"C3\" t=\"b\"><v>1</v></c>"
            + "<c r=\"D3\" t=\"e\"><v>#N/A</v></c></row>"
            + "<row r=\"4\"><c r=\"A4\"><f>SUM(B1:B3)</f></c><c r=\"B4\"><v>1E3</v></c></row>")));
    List<Map<String, String>> rows = rows(file);
    assertThat(rows.get(0))
        .as("what a formula came to; a cell in error is not known")
        .isEqualTo(Map.of("name", "A", "n", "2", "column3", "true"));
    assertThat(rows.get(1))
        .as("a formula that nobody worked out is not known")
        .isEqualTo(Map.of("n", "1000"));
  }

  /** Built-in formats 14 to 22 and 45 to 47 are dates and times (ISO/IEC 29500-1, 18.8.30); others by their letters. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "14 | | true",
        "22 | | true",
        "2 | 0.00 | false",
        "164 | dd.mm.yyyy hh:mm | true",
        "165 | yyyy-mm-dd | true",
        "166 | [h]:mm | true",
        "167 | 0.0 \"days\" | false",
        "168 | [Red]0.00 | false",
        "169 | General | false",
        "170 | #,##0.00 [$kr-414] | false"
      })
  void aNumberIsADayByItsFormat(int id, String format, boolean day) {
    assertThat(SheetCells.isDate(id, format)).isEqualTo(day);
  }

  @Test
  void whatIsNoWorkbookSaysSo() throws IOException {
    Path old = folder.resolve("old.xlsx");
    Files.write(old, new byte[] {
      (byte) 0xD0, (byte) 0xCF, 0x11, (byte) 0xE0, (byte) 0xA1, (byte) 0xB1, 0x1A, (byte) 0xE1, 0, 0
    });
    assertThatThrownBy(() -> rows(old))
        .hasMessageContaining("of the older form, or one with a password");
    Path text = Files.writeString(folder.resolve("text.xlsx"), "name,size\na,1\n");
    assertThatThrownBy(() -> rows(text))
        .hasMessageContaining("is no workbook, or one that was cut off");
    byte[] whole = Files.readAllBytes(GOOD);
    Path cut = folder.resolve("cut.xlsx");
    Files.write(cut, java.util.Arrays.copyOf(whole, whole.length / 2));
    assertThatThrownBy(() -> rows(cut))
        .hasMessageContaining("is no workbook, or one that was cut off");
    Path broken = with(Map.of(SHEET, sheet("<row r=\"1\"><c r=\"A1\"><v>1</v></row>")));
    assertThatThrownBy(() -> rows(broken)).hasMessageContaining("can't be read as a workbook");
    Path pages = folder.resolve("pages.xlsx");
    try (OutputStream out = Files.newOutputStream(pages);
        ZipOutputStream zip = new ZipOutputStream(out)) {
      zip.putNextEntry(new ZipEntry("index.html"));
      zip.write("<html>".getBytes(StandardCharsets.UTF_8));
    }
    assertThatThrownBy(() -> rows(pages)).hasMessageContaining("can't be read as a workbook");
  }

  @Test
  void aSheetThatIsNotThereAndAWorkbookWithNothingInItAreRefused() throws IOException {
    Layout other = new Layout(1, 0, "", List.of("October"), "", List.of());
    assertThatThrownBy(() ->
            Rows.report(GOOD, "book.xlsx", other, ImportProgress.UNWATCHED).close())
        .isInstanceOf(UnreadableFile.class)
        .hasMessageContaining("this file does not have it; its sheets are Sheet");
    Path nothing = with(Map.of(SHEET, sheet("")));
    assertThatThrownBy(() -> ReportSampler.sample(nothing, "book.xlsx"))
        .hasMessageContaining("has no sheet with anything in it");
  }

  /** 250 MB of blanks in a quarter of a megabyte. */
  @Test
  void aBombIsNotUnpacked() throws IOException {
    Path file = folder.resolve("bomb.xlsx");
    try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(file))) {
      zip.putNextEntry(new ZipEntry("xl/sharedStrings.xml"));
      byte[] blanks = new byte[1 << 20];
      for (int i = 0; i < 250; i++) {
        zip.write(blanks);
      }
    }
    assertThat(Files.size(file)).isLessThan(1 << 20);
    assertThatThrownBy(() -> rows(file)).hasMessageContaining("unpacks to more than 210 MB");
  }

  /** Entities that make billions of one: none is resolved, nor any file or address that one names. */
  @Test
  void entitiesAreNotResolved() throws IOException {
    String evil =
        "<?xml version=\"1.0\"?><!DOCTYPE w [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;\">"
            + "<!ENTITY f SYSTEM \"file:///etc/passwd\">]><worksheet"
            + " xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><sheetData>"
            + "<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>n&b;&f;</t></is></c></row>"
            + "<row r=\"2\"><c r=\"A2\" t=\"inlineStr\"><is><t>v&f;</t></is></c></row>"
            + "</sheetData></worksheet>";
    Path file = with(Map.of(SHEET, evil));
    String read;
    try {
      read = rows(file).toString();
    } catch (UnreadableFile e) {
      read = e.rejection().sentence();
    }
    assertThat(read).doesNotContain("root:").doesNotContain("aaaaaaaaaaaaaaaaaaaa");
  }

  /** Macros are a part among others, and are not read. */
  @Test
  void macrosAreNotLookedAt() throws IOException {
    Path file = with(Map.of("xl/vbaProject.bin", "no macro at all"));
    assertThat(rows(file)).hasSize(2);
  }
}
