package fiador.standin.queries;

import fiador.standin.deeds.Secrets;
import fiador.standin.estate.Session;
import fiador.standin.estate.Thing;
import fiador.standin.queries.Asking.Reader;
import fiador.standin.queries.Asking.Relation;
import java.util.HashMap;
import java.util.Map;
import java.util.StringJoiner;
import org.jspecify.annotations.Nullable;

/**
 * Views, each written once before the query that reads it, by a name of its own. The engine plans a
 * query within a query several times, and so one within that many times more: views on views on
 * views would take it minutes.
 */
final class ViewsApart {
  /** A view as it is for those whose rights count. */
  private record Shown(Thing view, Session session, boolean gates, boolean everything) {}

  private final Map<Shown, Relation> known = new HashMap<>();
  private StringJoiner written = new StringJoiner(", ");
  private boolean wanted;

  /** From now on views are written apart, to stand before a query that begins here. */
  void begin() {
    wanted = true;
    known.clear();
    written = new StringJoiner(", ");
  }

  /** The query that began, behind the views that it reads; from now on there is none. */
  String before(String query) {
    wanted = false;
    known.clear();
    if (written.length() == 0) {
      return query;
    }
    for (String with : new String[] {"WITH RECURSIVE ", "WITH "}) {
      if (query.startsWith(with)) {
        return with + written + ", " + query.substring(with.length());
      }
    }
    return "WITH " + written + " " + query;
  }

  /** Whether a query has begun. */
  boolean isWanted() {
    return wanted;
  }

  /** What stands for a thing that was written before; null if it was not. */
  @Nullable Relation known(Thing thing, Reader reader) {
    return known.get(shown(thing, reader));
  }

  private static Shown shown(Thing thing, Reader reader) {
    return new Shown(thing, reader.session(), reader.gates(), reader.everything());
  }

  /** Writes a view down; what stands for it from now on is a name. */
  Relation put(Thing view, Reader reader, Relation whole) {
    String name = PlainText.quoted("V" + Secrets.random());
    StringJoiner columns = new StringJoiner(", ", "(", ")");
    columns.setEmptyValue("(" + Asking.NO_COLUMN + ")");
    for (String column : view.columns().keySet()) {
      if (!whole.hidden().contains(column)) {
        columns.add(PlainText.quoted(column));
      }
    }
    written.add(name + columns + " AS " + whole.sql());
    Relation named = new Relation(name, whole.hidden());
    known.put(shown(view, reader), named);
    return named;
  }
}
