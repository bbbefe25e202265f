package fiador.report.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.report.exchange.ProofReport.Line;
import fiador.report.shown.Tone;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.util.List;
import java.util.Map;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.Test;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

class ProofReportTest {
  private static ProofReport report() {
    ProofReport report = new ProofReport();
    report.add(new Line("ines can select b.x", "proofs.yaml:2:5", true, "", "allowed it"));
    report.add(
        new Line("nobody can <drop> \"b\" & \u0001", "proofs.yaml:3:5", false, "rui can", null));
    report.add(new Line("only role a can select b.x", "p.yaml:4:5", true, "but for sa", null));
    return report;
  }

  private static Document xml() throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    report().junit("proofs of \"it\"", out);
    return DocumentBuilderFactory.newInstance()
        .newDocumentBuilder()
        .parse(new ByteArrayInputStream(out.toByteArray()));
  }

  @Test
  void textHasAMarkAndARemarkUnderTheLine() {
    assertThat(Tone.plain(report().text(100)).lines())
        .containsExactly(
            "  holds   ines can select b.x              server: allowed it",
            "  FAILS   nobody can <drop> \"b\" & \\u0001",
            "            rui can",
            "  holds   only role a can select b.x",
            "            but for sa");
  }

  @Test
  void aLadderStandsUnderItsProofRungByRung() {
    ProofReport report = new ProofReport();
    Map<String, Object> rung = Map.of("as", "rui", "does", "gives itself a, which it may give");
    List<Map<String, Object>> ladders = List.of(Map.of("user", "rui", "rungs", List.of(rung)));
    report.add(
        new Line("only a can ever select b.x", "p.yaml:1:1", false, "rui could", null, ladders));
    assertThat(Tone.plain(report.text(100)).lines())
        .containsExactly(
            "  FAILS   only a can ever select b.x",
            "            rui could",
            "            rui:",
            "              1  as rui: gives itself a, which it may give");
    assertThat(ProofReport.row(report.lines().get(0))).containsEntry("ladders", ladders);
  }

  @Test
  void theSuiteCountsItsCasesAndFailures() throws Exception {
    Element suite = xml().getDocumentElement();
    assertThat(suite.getTagName()).isEqualTo("testsuite");
    assertThat(suite.getAttribute("name")).isEqualTo("proofs of \"it\"");
    assertThat(suite.getAttribute("tests")).isEqualTo("3");
    assertThat(suite.getAttribute("failures")).isEqualTo("1");
    assertThat(suite.getElementsByTagName("testcase").getLength()).isEqualTo(3);
  }

  @Test
  void whatFailsSaysWhyAndNoTextBreaksOut() throws Exception {
    Element failure = (Element) xml().getElementsByTagName("failure").item(0);
    assertThat(failure.getAttribute("message")).isEqualTo("rui can");
    Element its = (Element) failure.getParentNode();
    assertThat(its.getAttribute("name")).isEqualTo("nobody can <drop> \"b\" & ?");
    assertThat(its.getAttribute("classname")).isEqualTo("proofs.yaml:3:5");
  }

  @Test
  void rowsLeaveOutWhatIsNotThere() {
    assertThat(ProofReport.row(report().lines().get(0)))
        .containsEntry("holds", true)
        .containsEntry("why", null)
        .containsEntry("live", "allowed it");
    assertThat(ProofReport.row(report().lines().get(1)).keySet())
        .containsExactlyElementsOf(ProofReport.FIELDS);
  }
}
