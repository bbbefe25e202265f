package fiador.standin.queries;

import fiador.standin.estate.Thing;
import fiador.standin.estate.WayIn;
import java.util.List;

/**
 * Rows that a statement reads and another server has.
 *
 * @param into under which name the engine is to find them
 * @param table whose rows they are here
 * @param far where they are
 * @param way as whom they are asked for
 * @param columns which are wanted; none where only their number is
 */
public record Fetch(String into, Thing table, Thing.Far far, WayIn way, List<String> columns) {}
