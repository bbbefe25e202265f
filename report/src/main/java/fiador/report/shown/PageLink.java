package fiador.report.shown;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Locale;

/** Links to the views of the page that {@code fiador page} writes. */
public final class PageLink {
  /** A view that is about one user, role or thing. */
  public enum View {
    PERSON,
    ROLE,
    THING
  }

  private PageLink() {}

  /**
   * The link.
   *
   * @param page where the page is
   * @param name of whom or what, as the page shows it
   */
  public static String to(String page, View view, String name) {
    // a plus would stay a plus behind the mark of a place in a page
    String encoded = URLEncoder.encode(name, StandardCharsets.UTF_8).replace("+", "%20");
    return page + "#" + view.name().toLowerCase(Locale.ROOT) + "=" + encoded;
  }
}
