package fiador.report.shown;

import gg.jte.ContentType;
import gg.jte.TemplateEngine;
import gg.jte.output.StringOutput;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Base64;

/** What pages for a browser are put together from. */
public final class PageParts {
  private PageParts() {}

  /** A file that stands beside a class in the program itself. */
  public static String file(Class<?> beside, String name) {
    try (InputStream in = beside.getResourceAsStream(name)) {
      if (in == null) {
        throw new IllegalStateException(name + " is missing from the program itself");
      }
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException broken) {
      throw new IllegalStateException(name + " cannot be read from the program itself", broken);
    }
  }

  /** Names a script or style to a browser as the only one to use. */
  public static String digest(String text) {
    try {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      byte[] bytes = digest.digest(text.getBytes(StandardCharsets.UTF_8));
      return "sha256-" + Base64.getEncoder().encodeToString(bytes);
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException("every Java has SHA-256", never);
    }
  }

  /**
   * A page.
   *
   * @param template its template
   * @param page what the template asks
   */
  public static String filled(String template, Object page) {
    StringOutput out = new StringOutput(1 << 16);
    TemplateEngine.createPrecompiled(
            null, ContentType.Html, PageParts.class.getClassLoader(), "fiador.report.pages")
        .render(template, page, out);
    return out.toString();
  }
}
