package fiador.standin.deeds;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Session;
import fiador.standin.estate.Thing;
import java.util.List;
import java.util.Map;

/** Where rows and secrets are kept, as far as statements about access go. */
public interface Rows {
  /**
   * Makes room for a table.
   *
   * @param columns their types, in words of the language
   * @return under which name it is kept
   */
  String create(Map<String, String> columns) throws MistakeException;

  /** A secret that has to be said to another server, as it may be kept. */
  String sealed(String secret);

  /**
   * The secret itself again.
   *
   * @throws MistakeException when it was not sealed here
   */
  String opened(String sealed) throws MistakeException;

  /**
   * Looks whether something can be worked out of a table's columns and whoever asks.
   *
   * @throws MistakeException when it cannot
   */
  void check(Thing table, String expression) throws MistakeException;

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
