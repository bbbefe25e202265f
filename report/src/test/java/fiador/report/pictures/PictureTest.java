package fiador.report.pictures;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.report.pictures.Figure.Box;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Figure.Shape;
import fiador.report.shown.Visible;
import java.awt.Color;
import java.awt.Dimension;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import javax.imageio.ImageIO;
import javax.xml.parsers.DocumentBuilderFactory;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.w3c.dom.Document;
import org.w3c.dom.NodeList;

/** Pictures in all formats, of names that mean harm as well. */
final class PictureTest {
  private static final List<String> NAMES =
      List.of(
          "<script>alert(1)</script>",
          "\"><img src=x onerror=alert(1)>",
          "it's & \"quoted\"",
          "]]><!--",
          "evil\u202Egnp.exe\u0007\u001b[31m",
          "名前-имя-نام",
          "x".repeat(200));

  private static Figure hostile() {
    List<Box> boxes = new ArrayList<>();
    List<Line> lines = new ArrayList<>();
    boxes.add(Box.one("r", Shape.ROLE, Visible.of(NAMES.get(0)), "role").asked());
    for (int i = 0; i < NAMES.size(); i++) {
      String name = Visible.of(NAMES.get(i));
      boxes.add(Box.one("t" + i, Shape.THING, name, "table").saying(name));
      lines.add(new Line("r", "t" + i, Manner.values()[i % Manner.values().length], name));
    }
    return new Figure(
        "Of " + Visible.of(NAMES.get(0)), "made up & old", boxes, lines, List.of("<b>note</b>"));
  }

  private static byte[] written(Picture picture, Picture.Kind kind) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    picture.write(kind, out);
    return out.toByteArray();
  }

  private static Document parsed(byte[] svg) throws Exception {
    DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
    factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
    return factory.newDocumentBuilder().parse(new ByteArrayInputStream(svg));
  }

  @Test
  void inAnSvgHostileNamesAreTextAndNothingElse() throws Exception {
    byte[] svg = written(Picture.of(hostile(), Theme.LIGHT, null), Picture.Kind.SVG);
    Document document = parsed(svg);
    List<String> elements = new ArrayList<>();
    NodeList all = document.getElementsByTagName("*");
    for (int i = 0; i < all.getLength(); i++) {
      elements.add(all.item(i).getNodeName());
    }
    assertThat(elements)
        .allMatch(
            List.of("svg", "g", "rect", "path", "text", "title", "desc", "line", "ellipse")
                ::contains);
    StringBuilder texts = new StringBuilder();
    NodeList shown = document.getElementsByTagName("text");
    for (int i = 0; i < shown.getLength(); i++) {
      texts.append(shown.item(i).getTextContent()).append('\n');
    }
    assertThat(texts.toString()).contains(NAMES.get(0), NAMES.get(2), "名前-имя-نام", "<b>note</b>");
    assertThat(new String(svg, StandardCharsets.UTF_8))
        .doesNotContain("\u202E", "\u0007", "\u001b");
    assertThat(document.getDocumentElement().getAttribute("role")).isEqualTo("img");
    assertThat(document.getElementsByTagName("title").item(0).getTextContent())
        .isEqualTo("Of <script>alert(1)</script>");
  }

  @ParameterizedTest
  @EnumSource(Theme.class)
  void aPngHasTheSizeAndTheGroundThatWereAskedFor(Theme theme) throws IOException {
    Picture picture = Picture.of(hostile(), theme, new Dimension(640, 400));
    BufferedImage image =
        ImageIO.read(new ByteArrayInputStream(written(picture, Picture.Kind.PNG)));
    assertThat(image.getWidth()).isEqualTo(640);
    assertThat(image.getHeight()).isEqualTo(400);
    assertThat(new Color(image.getRGB(1, 1))).isEqualTo(theme.paper());
    long drawn = 0;
    for (int x = 0; x < 640; x++) {
      for (int y = 0; y < 400; y++) {
        drawn += image.getRGB(x, y) == theme.paper().getRGB() ? 0 : 1;
      }
    }
    assertThat(drawn).isGreaterThan(2_000);
  }

  @Test
  void inAPdfTextStaysText() throws IOException {
    byte[] pdf = written(Picture.of(hostile(), Theme.PRINT, null), Picture.Kind.PDF);
    try (PDDocument document = Loader.loadPDF(pdf)) {
      assertThat(document.getNumberOfPages()).isEqualTo(1);
      String text = new PDFTextStripper().getText(document);
      assertThat(text).contains("Of <script>alert(1)</script>", "it's & \"quoted\"");
    }
  }

  private static double contrast(Color one, Color other) {
    double light = Math.max(luminance(one), luminance(other));
    double dark = Math.min(luminance(one), luminance(other));
    return (light + 0.05) / (dark + 0.05);
  }

  private static double luminance(Color colour) {
    return 0.2126 * linear(colour.getRed())
        + 0.7152 * linear(colour.getGreen())
        + 0.0722 * linear(colour.getBlue());
  }

  private static double linear(int part) {
    double share = part / 255.0;
    return share <= 0.04045 ? share / 12.92 : Math.pow((share + 0.055) / 1.055, 2.4);
  }

  @ParameterizedTest
  @EnumSource(Theme.class)
  void allTextStandsOutFromItsGround(Theme theme) {
    assertThat(contrast(theme.text(), theme.paper())).isGreaterThan(7);
    assertThat(contrast(theme.faint(), theme.paper())).isGreaterThan(4.5);
    for (Manner manner : Manner.values()) {
      assertThat(contrast(theme.of(manner), theme.paper())).as("%s", manner).isGreaterThan(4.5);
    }
    for (Shape shape : Shape.values()) {
      assertThat(contrast(theme.text(), theme.fill(shape))).isGreaterThan(7);
      assertThat(contrast(theme.faint(), theme.fill(shape))).as("%s", shape).isGreaterThan(4.5);
      assertThat(contrast(theme.edge(shape), theme.paper())).isGreaterThan(3);
    }
  }

  @Test
  void theKindOfFileIsReadFromItsName() {
    assertThat(Picture.Kind.ofFile("A.SVG")).isEqualTo(Picture.Kind.SVG);
    assertThat(Picture.Kind.ofFile("a.svg.txt")).isNull();
  }
}
