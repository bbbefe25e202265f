package fiador.report.page;

import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import gg.jte.output.StringOutput;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Base64;

/**
 * A page that needs nothing but itself. Only its own script runs on it, whatever names it shows,
 * and it cannot ask anything of anybody.
 *
 * @param server the server it is about
 * @param origin what it was made from
 * @param data what it shows, packed
 * @param style how it looks
 * @param script what it does
 */
public record EstatePage(String server, String origin, String data, String style, String script) {

  /** The page of packed data, as HTML. */
  static String html(String server, String origin, byte[] packed) {
    String data = Base64.getEncoder().encodeToString(packed);
    EstatePage page =
        new EstatePage(server, origin, data, resource("estate.css"), resource("estate.js"));
    StringOutput out = new StringOutput(data.length() + (1 << 16));
    TemplateEngine.createPrecompiled(
            null, ContentType.Html, EstatePage.class.getClassLoader(), "fiador.report.pages")
        .render("estate.jte", page, out);
    return out.toString();
  }

  /** Names the style to the browser as the only one to use. */
  public String styleDigest() {
    return digest(style);
  }

  /** Names the script to the browser as the only one to run. */
  public String scriptDigest() {
    return digest(script);
  }

  private static String digest(String text) {
    try {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      byte[] bytes = digest.digest(text.getBytes(StandardCharsets.UTF_8));
      return "sha256-" + Base64.getEncoder().encodeToString(bytes);
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException("every Java has SHA-256", never);
    }
  }

  private static String resource(String name) {
    try (InputStream in = EstatePage.class.getResourceAsStream(name)) {
      if (in == null) {
        throw new IllegalStateException(name + " is missing from the program itself");
      }
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException broken) {
      throw new IllegalStateException(name + " cannot be read from the program itself", broken);
    }
  }
}
