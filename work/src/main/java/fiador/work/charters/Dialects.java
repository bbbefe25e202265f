package fiador.work.charters;

import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted.Place;
import fiador.files.houses.HouseSheets;
import fiador.files.yaml.Mistakes;
import fiador.grants.Access;
import fiador.houses.HouseSheet;
import fiador.refusal.BadInput;
import fiador.servers.Servers;
import fiador.servers.kind.Dialect;
import fiador.servers.sheet.SheetDialect;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * How the statements of an estate's server are written. Where a house sheet says that, it is the
 * one in the hands of whoever asks: a survey brings rules along, and no statements that anybody
 * would run.
 */
public final class Dialects {
  private Dialects() {}

  /**
   * That of an estate's server.
   *
   * @param folder where its house sheet may be; null for here
   * @throws BadInput when its kind is one that a sheet describes, and that is missing or wrong
   */
  public static Dialect of(@Nullable Path folder, Access access) throws BadInput, IOException {
    String kind = access.about().kind();
    if (!HouseSheet.describes(kind)) {
      return Servers.named(kind).orElseThrow().dialect();
    }
    Mistakes mistakes = new Mistakes();
    HouseSheet sheet =
        HouseSheets.find(
            folder == null ? Path.of("") : folder,
            kind.substring(HouseSheet.PREFIX.length()),
            mistakes,
            new Place(access.about().server(), 1, 1));
    if (sheet == null) {
      throw new BadInput(
          "statements for "
              + access.about().server()
              + " need its house sheet: "
              + mistakes.list().get(0).message());
    }
    return new SheetDialect(sheet);
  }

  /**
   * What carries steps out on an estate's server; steps that it has no statement for are left out.
   *
   * @param folder where its house sheet may be; null for here
   * @throws BadInput as the other
   */
  public static Function<List<Step>, List<String>> statements(@Nullable Path folder, Access access)
      throws BadInput, IOException {
    Dialect dialect = of(folder, access);
    return steps ->
        dialect.batches(steps.stream().filter(dialect::has).toList()).stream()
            .map(Dialect.Batch::sql)
            .toList();
  }
}
