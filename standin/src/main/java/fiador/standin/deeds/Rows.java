package fiador.standin.deeds;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Session;
import fiador.standin.estate.Thing;
import java.util.List;
import java.util.Map;

/** Where rows are kept, as far as making and dropping tables goes. */
public interface Rows {
  /**
   * Makes room for a table.
   *
   * @param columns their types, in words of the language
   * @return under which name it is kept
   */
  String create(Map<String, String> columns) throws MistakeException;

  /**
   * What a query shows.
   *
   * @param columns and of which types
   * @param reads the tables and views it names
   */
  record Shown(Map<String, String> columns, List<Thing> reads) {}

  /** What a query shows; whoever asks must be allowed to ask it. */
  Shown shown(String query, Session asker) throws MistakeException, RefusedException;
}
