package fiador.cli.draw;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.GZIPInputStream;

/** What is in a page, as its script reads it. */
public final class PackedPage {
  private static final Pattern DATA = Pattern.compile("id=\"data\">([^<]*)<");

  private PackedPage() {}

  /** The JSON in a page. */
  public static String in(Path page) throws IOException {
    Matcher data = DATA.matcher(Files.readString(page));
    assertThat(data.find()).isTrue();
    byte[] bytes = Base64.getDecoder().decode(data.group(1));
    try (GZIPInputStream in = new GZIPInputStream(new ByteArrayInputStream(bytes))) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }
}
