package fiador.report.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import fiador.findings.Findings;
import fiador.findings.check.Asked;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.grants.TinyEstate;
import fiador.report.text.FindingText;
import java.io.ByteArrayOutputStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A finding keeps its fingerprint however it is said. */
final class SarifTest {
  private static final Asked ASKED =
      Findings.catalogue().stream()
          .filter(asked -> asked.id().equals("role-held-twice"))
          .findFirst()
          .orElseThrow();

  private static List<String> prints(Finding... found) throws Exception {
    TinyEstate tiny = TinyEstate.postgresql().users("ines", "rui").roles("reader");
    FindingText text = new FindingText(tiny.build(), 100, Instant.EPOCH, steps -> List.of());
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Sarif.write(
        out, new Findings.Result(List.of(found), List.of(), List.of(), List.of()), text, "1.2.3");
    List<String> prints = new ArrayList<>();
    for (JsonNode result : new ObjectMapper().readTree(out.toByteArray()).at("/runs/0/results")) {
      prints.add(result.at("/partialFingerprints/finding~1v2").asText());
    }
    return prints;
  }

  private static Finding about(int principal, String said) {
    return Finding.about(ASKED, principal, Phrase.of(said));
  }

  @Test
  void wordsAndCountsAreNoPartOfIt() throws Exception {
    List<String> prints =
        prints(about(1, "holds it twice, and 3 more"), about(1, "holds it two times, and 4 more"));
    assertThat(prints.get(0)).isNotEmpty().isEqualTo(prints.get(1));
  }

  @Test
  void whomAndWhatItIsAboutIs() throws Exception {
    assertThat(
            prints(
                about(1, "is so"),
                about(2, "is so"),
                about(1, "is so").on(0),
                about(1, "is so").apart("reader"),
                about(1, "is so").apart("writer")))
        .doesNotHaveDuplicates();
  }
}
