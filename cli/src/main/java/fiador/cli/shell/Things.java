package fiador.cli.shell;

import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.refusal.BadInput;
import fiador.report.shown.Shown;
import java.util.function.Consumer;

/** What people mean by the name of a thing. */
public final class Things {
  private Things() {}

  /**
   * The thing of that name, or its column. A name without its schema will do where there is but
   * one; what it was taken for is then said.
   *
   * @param privileges as for {@link Lookup#node}
   * @param withColumn as for {@link Lookup#node}
   * @param notes takes what the name was taken for
   * @return what was found, or why nothing was
   */
  public static Lookup.Found found(
      Access access, String path, long privileges, boolean withColumn, Consumer<String> notes)
      throws BadInput {
    Lookup lookup = new Lookup(access);
    Lookup.Found found = lookup.node(path, privileges, withColumn);
    if (found.ok() || lookup.node(path, 0, withColumn).ok()) {
      return found;
    }
    Lookup.Found anywhere = lookup.anywhere(path, privileges, withColumn).orElse(found);
    if (anywhere.ok()) {
      Shown shown = Shown.brief(access);
      String what =
          anywhere.column() < 0
              ? shown.node(anywhere.id())
              : "column "
                  + shown.path(anywhere.id())
                  + "."
                  + shown.column(anywhere.id(), anywhere.column());
      notes.accept(path + " is taken for " + what);
      return anywhere;
    }
    Lookup.Found principal = lookup.principal(path);
    if (principal.ok()) {
      String kind = access.principals().kind(principal.id()).text();
      throw new BadInput(
          path + " is a " + kind + " and no thing; what it holds: fiador holdings " + path);
    }
    return anywhere;
  }
}
