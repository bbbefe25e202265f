package fiador.report.exchange;

import fiador.report.shown.Tone;
import fiador.report.text.Columns;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;

/** What became of proofs: as text, as rows, and as the XML that test runners read. */
public final class ProofReport {
  /** The fields of rows, in order. */
  public static final List<String> FIELDS =
      List.of("proof", "place", "holds", "why", "live", "ladders");

  private final List<Line> lines = new ArrayList<>();

  /**
   * One proof.
   *
   * @param sentence as the charter has it
   * @param place where
   * @param holds whether it holds, on paper and, where it was tried, on the server
   * @param why what is against it, or a remark; empty if there is nothing to say
   * @param live what the server did, or that it was not tried; null when not asked for
   * @param ladders how people could come to it by their own means, as rows for programs
   */
  public record Line(
      String sentence,
      String place,
      boolean holds,
      String why,
      String live,
      List<Map<String, Object>> ladders) {
    /** Of a proof that does not look ahead. */
    public Line(String sentence, String place, boolean holds, String why, String live) {
      this(sentence, place, holds, why, live, List.of());
    }
  }

  /** Adds a proof. */
  public void add(Line line) {
    lines.add(line);
  }

  /** How many do not hold. */
  public int failures() {
    return (int) lines.stream().filter(line -> !line.holds()).count();
  }

  /** As a row for machines. */
  public static Map<String, Object> row(Line line) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("proof", line.sentence());
    row.put("place", line.place());
    row.put("holds", line.holds());
    row.put("why", line.why().isEmpty() ? null : line.why());
    row.put("live", line.live());
    row.put("ladders", line.ladders().isEmpty() ? null : line.ladders());
    return row;
  }

  /** All proofs, those that fail first in the eye. */
  public List<Line> lines() {
    return List.copyOf(lines);
  }

  /** Aligned lines, a mark before each. */
  public String text(int width) {
    Columns columns = new Columns(width);
    for (Line line : lines) {
      String live = line.live() == null ? "" : "server: " + line.live();
      columns.line(
          line.holds() ? Tone.GOOD.of("holds") : Tone.BAD.of("FAILS"), line.sentence(), live);
      if (!line.why().isEmpty()) {
        columns.line("", "  " + line.why(), "");
      }
      line.ladders().forEach(ladder -> addLadder(ladder, columns));
    }
    return columns.text();
  }

  private static void addLadder(Map<String, Object> ladder, Columns columns) {
    List<?> rungs = (List<?>) ladder.get("rungs");
    columns.line("", "  " + ladder.get("user") + ":", "");
    int number = 1;
    for (Object rung : rungs) {
      Map<?, ?> step = (Map<?, ?>) rung;
      columns.line("", "    " + number++ + "  as " + step.get("as") + ": " + step.get("does"), "");
    }
  }

  /** The XML that test runners exchange: one suite, one case a proof. */
  public void junit(String suite, OutputStream out) throws IOException {
    try {
      XMLStreamWriter xml = XMLOutputFactory.newInstance().createXMLStreamWriter(out, "UTF-8");
      xml.writeStartDocument("UTF-8", "1.0");
      xml.writeStartElement("testsuite");
      xml.writeAttribute("name", plain(suite));
      xml.writeAttribute("tests", String.valueOf(lines.size()));
      xml.writeAttribute("failures", String.valueOf(failures()));
      for (Line line : lines) {
        xml.writeStartElement("testcase");
        xml.writeAttribute("name", plain(line.sentence()));
        xml.writeAttribute("classname", plain(line.place()));
        if (!line.holds()) {
          xml.writeStartElement("failure");
          xml.writeAttribute("message", plain(line.why()));
          xml.writeEndElement();
        }
        xml.writeEndElement();
      }
      xml.writeEndElement();
      xml.writeEndDocument();
      xml.close();
    } catch (XMLStreamException broken) {
      throw new IOException(broken);
    }
  }

  /** XML has no place for control characters. */
  private static String plain(String text) {
    return text.replaceAll("[\\x00-\\x08\\x0b\\x0c\\x0e-\\x1f\\ufffe\\uffff]", "?");
  }
}
