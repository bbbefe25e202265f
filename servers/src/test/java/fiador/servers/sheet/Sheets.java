package fiador.servers.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.files.houses.HouseSheetReader;
import fiador.files.houses.HouseSheets;
import fiador.files.yaml.Mistakes;
import fiador.houses.HouseSheet;
import java.io.IOException;
import java.util.List;

/** Servers by the sheets that come along. */
public final class Sheets {
  private Sheets() {}

  /** One that is right. */
  public static SheetServer server(String name) throws IOException {
    Mistakes mistakes = new Mistakes();
    HouseSheet sheet = HouseSheets.shipped(name, mistakes);
    assertThat(mistakes.list()).isEmpty();
    return new SheetServer(sheet, List.of());
  }

  /** One that is described there, and right. */
  public static SheetServer of(String text) throws IOException {
    Mistakes mistakes = new Mistakes();
    HouseSheet sheet = HouseSheetReader.read("a sheet", text, mistakes);
    assertThat(mistakes.list()).isEmpty();
    return new SheetServer(sheet, List.of());
  }
}
