package fiador.standin.deeds;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Thing;
import fiador.standin.house.House.Fact;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Statements about labels. What is given by a label opens all that carries it, and what is refused
 * by it shuts that: so only administrators say what carries which.
 */
final class LabelDeeds {
  private LabelDeeds() {}

  static void put(Doing doing, String label, Thing on, List<String> columns)
      throws RefusedException, MistakeException {
    need(doing, on);
    for (@Nullable String column : named(on, columns)) {
      on.putLabel(label, column);
    }
    doing.warehouse().label(label);
  }

  static void take(Doing doing, String label, Thing off, List<String> columns)
      throws RefusedException, MistakeException {
    need(doing, off);
    List<@Nullable String> all = named(off, columns);
    for (@Nullable String column : all) {
      if (!off.labels(column).contains(label)) {
        String what = column == null ? off.toString() : "column " + column + " of " + off;
        throw new MistakeException(what + " does not carry the label " + label);
      }
    }
    all.forEach(column -> off.takeLabel(label, column));
  }

  private static void need(Doing doing, Thing thing) throws RefusedException, MistakeException {
    if (!doing.house().has(Fact.LABELS)) {
      throw new MistakeException("nothing carries labels here");
    }
    if (thing.parent() == null) {
      throw new MistakeException("the server carries no labels; what is in it does");
    }
    doing.needAdministrator("say what carries which label");
    doing.needDisposal(thing);
  }

  /** The columns as they are called; null, for the whole, where none is said. */
  private static List<@Nullable String> named(Thing thing, List<String> columns)
      throws MistakeException {
    List<@Nullable String> found = new ArrayList<>();
    for (String column : columns) {
      String name = thing.column(column);
      if (name == null) {
        throw new MistakeException("there is no column " + column + " in " + thing);
      }
      found.add(name);
    }
    if (columns.isEmpty()) {
      found.add(null);
    }
    return found;
  }
}
