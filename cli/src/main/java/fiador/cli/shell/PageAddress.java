package fiador.cli.shell;

import fiador.refusal.BadInput;
import java.util.function.Consumer;

/** Where the page that {@code fiador page} wrote can be found, for links to its views. */
public final class PageAddress {
  private static final String FORM = "(https?://)?[^\\s:#?\"'<>]+(:\\d+[^\\s:#?\"'<>]*)?\\.html?";

  private PageAddress() {}

  /** Takes it from the command line. */
  public static void option(Options options, Consumer<String> to, String... says) {
    options.option("--page", "ADDRESS", to, says);
  }

  /** The address as it is, if it leads to a page and runs nothing; null where none was given. */
  public static String checked(String address) throws BadInput {
    if (address != null && !address.matches(FORM)) {
      throw new BadInput(
          "--page \""
              + address
              + "\" is no address of a page, such as estate.html or https://host/estate.html");
    }
    return address;
  }
}
