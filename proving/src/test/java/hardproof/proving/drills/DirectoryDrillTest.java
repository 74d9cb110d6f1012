package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.Tar;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.List;
import org.junit.jupiter.api.Test;

class DirectoryDrillTest extends WithStore {
  /** Examples 1, 2 and 3 of RFC 2849: plain, folded and base64 values, under the entry that they need. */
  private static final String RFC_2849 = """
      version: 1
      dn: dc=airius, dc=com
      objectclass: domain
      dc: airius

      dn: ou=Product Development, dc=airius, dc=com
      objectclass: organizationalUnit
      ou: Product Development

      dn: cn=Barbara Jensen, ou=Product Development, dc=airius, dc=com
      objectclass: top
      objectclass: person
      objectclass: organizationalPerson
      cn: Barbara Jensen
      cn: Barbara J Jensen
      cn: Babs Jensen
      sn: Jensen
      uid: bjensen
      telephonenumber: +1 408 555 1212
      description:Babs is a big sailing fan, and travels extensively in sea
       rch of perfect sailing conditions.
      title:Product Manager, Rod and Reel Division

      dn: cn=Gern Jensen, ou=Product Development, dc=airius, dc=com
      objectclass: top
      objectclass: person
      objectclass: organizationalPerson
      cn: Gern Jensen
      cn: Gern O Jensen
      sn: Jensen
      uid: gernj
      telephonenumber: +1 408 555 1212
      description:: V2hhdCBhIGNhcmVmdWwgcmVhZGVyIHlvdSBhcmUhICBUaGlzIHZhbHVlIGlzIGJhc2UtNjQtZW5jb2RlZCBiZWNhdXNlIGl0IGhhcyBhIGNvbnRyb2wgY2hhcmFjdGVyIGluIGl0IChhIENSKS4NICBCeSB0aGUgd2F5LCB5b3Ugc2hvdWxkIHJlYWxseSBnZXQgb3V0IG1vcmUu
      """;

  private static final String BABS = "cn=Barbara Jensen,ou=Product Development,dc=airius,dc=com";

  private Artifact ldif(String name, String text) throws IOException {
    return put(name, "ldif", text.getBytes(StandardCharsets.UTF_8), null);
  }

  private DrillResult drill(Artifact now, Artifact before, Check... checks) {
    DrillRequest r = request(Method.DIRECTORY, List.of(checks), false, now);
    return runner.run(
        new DrillRequest(
            r.run(),
            new DrillRequest.Of(r.resource(), r.point(), r.dataTime()),
            new DrillRequest.From(r.storeKey(), r.storeName(), r.store()),
            r.method(),
            r.chain(),
            r.checks(),
            false,
            r.options(),
            before,
            List.of()),
        new Recorder());
  }

  @Test
  void theExamplesOfTheStandardLoadAndAnswer() throws IOException {
    DrillResult result = ask(
        Method.DIRECTORY,
        ldif("d.ldif", RFC_2849),
        new Check(CheckType.ENTRIES_AT_LEAST, "(sn=jensen)", "2"),
        new Check(
            CheckType.ENTRY_EQUALS,
            "description@" + BABS,
            "Babs is a big sailing fan, and travels extensively in search of perfect sailing conditions."),
        new Check(CheckType.MARKER_THERE, "uid@" + BABS, "bjensen"),
        new Check(CheckType.MARKER_ABSENT, "uid@" + BABS, "gernj"));
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.PASSED);
    assertThat(result.reaches()).isEqualTo(Rung.RUNNING);
    assertThat(result.sentence()).startsWith("directory loaded: 4 entries under dc=airius, dc=com");
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void compressedLdifIsReadAndWithoutAQuestionItIsOnlyRestored() throws IOException {
    Artifact gz =
        put("d.ldif.gz", "ldif.gz", Tar.gzip(RFC_2849.getBytes(StandardCharsets.UTF_8)), null);
    DrillResult result = run(Method.DIRECTORY, gz);
    assertThat(result.reaches()).isEqualTo(Rung.RESTORED);
    assertThat(result.sentence()).endsWith("nothing was asked of it");
  }

  @Test
  void anAttributeThatWasLostIsFoundByThePointBefore() throws IOException {
    Artifact before = ldif("before.ldif", RFC_2849);
    Artifact now = ldif("now.ldif", RFC_2849.replace("uid: gernj\n", ""));
    DrillResult told = drill(now, before);
    assertThat(told.checks()).as("told, and no failure unless asked").isEqualTo(ChecksState.PASSED);
    assertThat(told.sentence())
        .contains(
            "against the point before: 1 attribute lost (cn=Gern Jensen, ou=Product Development, dc=airius, dc=com: uid)");
    DrillResult asked =
        drill(now, before, new Check(CheckType.ATTRIBUTES_KEPT, "(objectclass=person)", "uid"));
    assertThat(asked.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(asked.sentence())
        .isEqualTo("2 entries compared with the point before: cn=Gern Jensen lost uid");
    assertThat(drill(now, before, new Check(CheckType.ATTRIBUTES_KEPT, "(uid=bjensen)", "*"))
            .checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(drill(now, null, new Check(CheckType.ATTRIBUTES_KEPT, "(uid=*)", "*"))
            .restore())
        .as("nothing to compare with")
        .isEqualTo(RestoreState.REFUSED);
  }

  @Test
  void aBadOlderPointIsNotTheFaultOfTheNewer() throws IOException {
    Artifact before = ldif("before.ldif", RFC_2849);
    Artifact now = ldif("now.ldif", RFC_2849);
    flip("before.ldif", 30);
    assertThat(drill(now, before).checks()).isEqualTo(ChecksState.PASSED);
    notJudged(drill(now, before, new Check(CheckType.ATTRIBUTES_KEPT, "(uid=*)", "*")));
  }

  private static void notJudged(DrillResult result) {
    assertThat(result.sentence()).startsWith("not judged: ");
    assertThat(result.blamedPoint()).isNull();
    assertThat(result.checks()).isNotIn(ChecksState.PASSED, ChecksState.FAILED);
  }

  @Test
  void whatIsNoLdifAtAllIsNotJudged() throws IOException {
    notJudged(ask(
        Method.DIRECTORY, put("w.ldif", "ldif", RFC_2849.getBytes(StandardCharsets.UTF_16), null)));
    notJudged(ask(Method.DIRECTORY, ldif("x.ldif", "<?xml version=\"1.0\"?>\n<dsml/>\n")));
  }

  /** As OpenLDAP's ldapsearch prints it; a search that a limit ended did not bring everything. */
  @Test
  void howASearchEndedIsPartOfItsAnswer() throws IOException {
    String search = RFC_2849 + "\n# search reference\nref: ldap://other.example/dc=com\n"
        + "\n# search result\nsearch: 2\nresult: 0 Success\n\n# numEntries: 4\n";
    Check people = new Check(CheckType.ENTRIES_AT_LEAST, "(objectclass=person)", "2");
    assertThat(drill(ldif("s.ldif", search), null, people).checks()).isEqualTo(ChecksState.PASSED);
    assertThat(failure(search.replace("0 Success", "4 Size limit exceeded")))
        .contains("is not as LDIF is written");
    String asked = "# extended LDIF\n# requesting: ALL\n#\n\n" + search;
    assertThat(drill(ldif("a.ldif", asked), null, people).checks()).isEqualTo(ChecksState.PASSED);
    assertThat(failure(asked.substring(0, asked.indexOf("# search result"))))
        .contains("the search that it comes from did not end: it is cut off");
  }

  @Test
  void theMarkOfAnEditorIsNoPartOfTheFirstLine() throws IOException {
    assertThat(run(Method.DIRECTORY, ldif("b.ldif", "\ufeff" + RFC_2849)).checks())
        .isEqualTo(ChecksState.PASSED);
  }

  @Test
  void membersThatAreNotThereAreTold() throws IOException {
    String group = RFC_2849
        + "\ndn: cn=crew, dc=airius, dc=com\nobjectclass: groupOfNames\ncn: crew\nmember: " + BABS
        + "\nmember: cn=Nobody,dc=airius,dc=com\n";
    assertThat(run(Method.DIRECTORY, ldif("g.ldif", group)).sentence())
        .contains(
            "1 member of groups not there: cn=crew, dc=airius, dc=com has the member cn=Nobody");
  }

  private String failure(String text) throws IOException {
    DrillResult result = runner.run(
        request(Method.DIRECTORY, List.of(), false, ldif("x.ldif", text)), new Recorder());
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.FAILED);
    assertThat(result.blamedPoint()).isEqualTo("point-x.ldif");
    return result.sentence();
  }

  /** RFC 2849, example 5, "value from a URL": the file named would be read. */
  @Test
  void aValueThatLeadsOutIsRefused() throws IOException {
    Files.writeString(temp.resolve("secret"), "s");
    String out =
        "dn: dc=a\nobjectclass: domain\ndc: a\njpegphoto:< file://" + temp.resolve("secret") + "\n";
    assertThat(failure(out))
        .isEqualTo("x.ldif can't be loaded: line 4 takes its value from a place elsewhere (\":<\"),"
            + " which is refused");
    assertThat(failure(out.replace("jpegphoto:<", "jpegphoto:\n <")))
        .contains("line 4 takes its value");
  }

  @Test
  void whatIsNoDirectoryIsSaidToBeNone() throws IOException {
    assertThat(failure("\n")).endsWith("it holds no entry");
    assertThat(failure("hello\n")).contains("x.ldif can't be loaded: line 1");
    assertThat(failure(RFC_2849 + "\n" + RFC_2849.substring(RFC_2849.indexOf("dn:"))))
        .contains("is there twice");
  }
}
