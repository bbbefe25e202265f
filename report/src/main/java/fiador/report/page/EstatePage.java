package fiador.report.page;

import fiador.report.shown.PageParts;
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
    return PageParts.filled(
        "estate.jte",
        new EstatePage(
            server,
            origin,
            data,
            PageParts.file(EstatePage.class, "estate.css"),
            PageParts.file(EstatePage.class, "estate.js")));
  }

  /** Names the style to the browser as the only one to use. */
  public String styleDigest() {
    return PageParts.digest(style);
  }

  /** Names the script to the browser as the only one to run. */
  public String scriptDigest() {
    return PageParts.digest(script);
  }
}
