package fiador.files.sheets;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Collections;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * Looks through a workbook before a library reads it, which makes room for whatever row and column
 * a cell says it stands in: a few bytes could ask for all memory.
 */
final class Workbook {
  private static final long LARGEST_UNPACKED = 256L << 20;

  /** No program for tables has more rows than seven digits say, nor more columns than XFD. */
  private static final Pattern PLACE = Pattern.compile("[A-Z]{0,3}[0-9]{0,7}");

  private Workbook() {}

  /**
   * Looks through it.
   *
   * @throws SheetException when it is not to be read
   */
  static void check(Path file) throws SheetException, IOException {
    long size = 0;
    try (ZipFile packed = new ZipFile(file.toFile())) {
      for (ZipEntry part : Collections.list(packed.entries())) {
        try (Counted unpacked = new Counted(packed.getInputStream(part), LARGEST_UNPACKED - size)) {
          if (part.getName().startsWith("xl/worksheets/")) {
            places(file, unpacked);
          }
          unpacked.skipAll();
          size += unpacked.size;
        }
      }
    } catch (ZipException | XMLStreamException broken) {
      throw new SheetException(file + " cannot be read as xlsx: " + broken.getMessage());
    } catch (TooLarge large) {
      throw new SheetException(file + " unpacks to more than 256 MiB; that is no sheet");
    }
  }

  private static void places(Path file, InputStream sheet)
      throws SheetException, XMLStreamException {
    XMLInputFactory factory = XMLInputFactory.newFactory();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    XMLStreamReader xml = factory.createXMLStreamReader(sheet);
    while (xml.hasNext()) {
      int event = xml.next();
      if (event == XMLStreamConstants.DTD) {
        throw new SheetException(file + " has a document type, which no sheet needs");
      }
      String place =
          event == XMLStreamConstants.START_ELEMENT ? xml.getAttributeValue(null, "r") : null;
      if (place != null && !PLACE.matcher(place).matches()) {
        String shown = place.substring(0, Math.min(20, place.length()));
        throw new SheetException(file + " has a cell at " + shown + ", where no sheet has one");
      }
    }
  }

  private static final class TooLarge extends IOException {
    private static final long serialVersionUID = 1L;
  }

  /** Gives up before there is more than there is room for. */
  private static final class Counted extends FilterInputStream {
    private final long most;
    private long size;

    Counted(InputStream unpacked, long most) {
      super(unpacked);
      this.most = most;
    }

    private int counted(int read) throws IOException {
      size += Math.max(0, read);
      if (size > most) {
        throw new TooLarge();
      }
      return read;
    }

    @Override
    public int read() throws IOException {
      int b = in.read();
      counted(b < 0 ? 0 : 1);
      return b;
    }

    @Override
    public int read(byte[] to, int from, int most) throws IOException {
      return counted(in.read(to, from, most));
    }

    void skipAll() throws IOException {
      byte[] some = new byte[1 << 13];
      int read = read(some, 0, some.length);
      while (read >= 0) {
        read = read(some, 0, some.length);
      }
    }
  }
}
