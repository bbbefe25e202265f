package fiador.report.pictures;

import de.rototor.pdfbox.graphics2d.PdfBoxGraphics2D;
import de.rototor.pdfbox.graphics2d.PdfBoxGraphics2DFontTextDrawer;
import java.awt.Color;
import java.awt.Dimension;
import java.awt.Font;
import java.awt.FontFormatException;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.function.BiFunction;
import javax.imageio.ImageIO;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.jfree.svg.SVGGraphics2D;
import org.jspecify.annotations.Nullable;

/**
 * A drawing on its way into a file. All formats come from the same strokes; text stays text in SVG
 * and PDF.
 */
public final class Picture {
  /** What a picture can be written as. */
  public enum Kind {
    SVG,
    PNG,
    PDF;

    /** By the end of a file's name; null where it is none of them. */
    public static @Nullable Kind ofFile(String name) {
      for (Kind kind : values()) {
        if (name.toLowerCase(Locale.ROOT).endsWith("." + kind.name().toLowerCase(Locale.ROOT))) {
          return kind;
        }
      }
      return null;
    }
  }

  private static final String FAMILIES = Lettering.FAMILY + ", Arial, Helvetica, sans-serif";
  private static final String FONT = "/org/apache/pdfbox/resources/ttf/LiberationSans-Regular.ttf";

  /** Of a PNG, so that letters are sharp where a screen is. */
  private static final int SHARP = 2;

  private final Drawing drawing;
  private final Theme theme;
  private final @Nullable Dimension size;

  private Picture(Drawing drawing, Theme theme, @Nullable Dimension size) {
    this.drawing = drawing;
    this.theme = theme;
    this.size = size;
  }

  /**
   * A figure as a picture.
   *
   * @param size how large it shall be; null for as large as it comes
   */
  public static Picture of(Figure figure, Theme theme, @Nullable Dimension size) {
    return new Picture(new Painter(Layout.place(figure)), theme, size);
  }

  /** A matrix as a picture; parameters as for the other. */
  public static Picture of(Matrix matrix, Theme theme, @Nullable Dimension size) {
    return new Picture(new MatrixPainter(matrix), theme, size);
  }

  /** Writes it; the stream stays open. */
  public void write(Kind kind, OutputStream to) throws IOException {
    // no window system is asked for, whatever the machine has
    System.setProperty("java.awt.headless", "true");
    switch (kind) {
      case SVG -> to.write(svg().getBytes(StandardCharsets.UTF_8));
      case PNG -> png(to);
      case PDF -> pdf(to);
    }
  }

  private double width() {
    return size == null ? Math.ceil(drawing.width()) : size.width;
  }

  private double height() {
    return size == null ? Math.ceil(drawing.height()) : size.height;
  }

  private void paint(Graphics2D pen, BiFunction<String, Float, Font> fonts) {
    Sheet sheet = new Sheet(pen, theme, fonts);
    sheet.ground(width(), height());
    if (size != null) {
      double scale = Math.min(width() / drawing.width(), height() / drawing.height());
      pen.scale(scale, scale);
    }
    drawing.on(sheet);
  }

  private String svg() {
    SVGGraphics2D pen = new SVGGraphics2D(width(), height());
    pen.setFontFunction(family -> FAMILIES);
    pen.setGeomDoubleConverter(Picture::rounded);
    pen.setTransformDoubleConverter(Picture::rounded);
    paint(pen, (text, points) -> new NamedFont(Math.round(points)));
    String document = pen.getSVGElement();
    int open = document.indexOf("<svg") + "<svg".length();
    int end = document.indexOf('>', open) + 1;
    return document.substring(0, open)
        + " role=\"img\" aria-labelledby=\"title\" aria-describedby=\"words\" viewBox=\"0 0 "
        + (long) width()
        + " "
        + (long) height()
        + "\""
        + document.substring(open, end)
        + "<title id=\"title\">"
        + escaped(drawing.title())
        + "</title><desc id=\"words\">"
        + escaped(drawing.inWords())
        + "</desc>"
        + document.substring(end)
        + "\n";
  }

  /**
   * A font of which no more than the name is needed. Java's own would look for fonts on the
   * machine, which takes a while, and some machines have none.
   */
  private static final class NamedFont extends Font {
    private static final long serialVersionUID = 1;

    NamedFont(int points) {
      super(Lettering.FAMILY, Font.PLAIN, points);
    }

    @Override
    public String getFamily() {
      return Lettering.FAMILY;
    }
  }

  /** To a hundredth, which nobody can see. */
  private static String rounded(double value) {
    long hundredths = Math.round(value * 100);
    return hundredths % 100 == 0
        ? Long.toString(hundredths / 100)
        : Double.toString(hundredths / 100.0);
  }

  private static String escaped(String text) {
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;");
  }

  private void png(OutputStream to) throws IOException {
    int sharp = size == null ? SHARP : 1;
    BufferedImage image =
        new BufferedImage(
            (int) (width() * sharp), (int) (height() * sharp), BufferedImage.TYPE_INT_RGB);
    Graphics2D pen = image.createGraphics();
    pen.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
    pen.setRenderingHint(
        RenderingHints.KEY_TEXT_ANTIALIASING, RenderingHints.VALUE_TEXT_ANTIALIAS_ON);
    // letters as wide as they were taken for, not rounded to pixels
    pen.setRenderingHint(
        RenderingHints.KEY_FRACTIONALMETRICS, RenderingHints.VALUE_FRACTIONALMETRICS_ON);
    pen.setRenderingHint(RenderingHints.KEY_STROKE_CONTROL, RenderingHints.VALUE_STROKE_PURE);
    pen.scale(sharp, sharp);
    Font font = font();
    paint(
        pen,
        (text, points) ->
            (font.canDisplayUpTo(text) < 0 ? font : new Font(Font.SANS_SERIF, Font.PLAIN, 1))
                .deriveFont(points));
    pen.dispose();
    ImageIO.setUseCache(false);
    ImageIO.write(image, "png", to);
  }

  private void pdf(OutputStream to) throws IOException {
    try (PDDocument document = new PDDocument();
        InputStream file = fontFile()) {
      PDPage page = new PDPage(new PDRectangle((float) width(), (float) height()));
      document.addPage(page);
      document.getDocumentInformation().setTitle(drawing.title());
      document.getDocumentCatalog().setLanguage("en");
      PdfBoxGraphics2D pen = new PdfBoxGraphics2D(document, (float) width(), (float) height());
      PdfBoxGraphics2DFontTextDrawer text = new PdfBoxGraphics2DFontTextDrawer();
      text.registerFont(Lettering.FAMILY, file);
      pen.setFontTextDrawer(text);
      pen.setBackground(Color.WHITE);
      Font font = font();
      paint(pen, (said, points) -> font.deriveFont(points));
      pen.dispose();
      try (PDPageContentStream content = new PDPageContentStream(document, page)) {
        content.drawForm(pen.getXFormObject());
      }
      document.save(to);
    }
  }

  private static InputStream fontFile() throws IOException {
    InputStream file = PDDocument.class.getResourceAsStream(FONT);
    if (file == null) {
      throw new IOException("the font that pictures are drawn with is missing: " + FONT);
    }
    return file;
  }

  private static Font font() throws IOException {
    try (InputStream file = fontFile()) {
      return Font.createFont(Font.TRUETYPE_FONT, file);
    } catch (FontFormatException broken) {
      throw new IOException("the font that pictures are drawn with cannot be read", broken);
    }
  }
}
