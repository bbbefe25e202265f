package fiador.standin.deeds;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Thing;
import fiador.standin.house.House.Fact;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Statements about which rows and values there are for whom. Administrators alone say so: an owner
 * who could would decide what others believe of a table.
 */
final class VeilDeeds {
  private VeilDeeds() {}

  private static Thing table(Doing doing, Thing thing) throws RefusedException, MistakeException {
    doing.needAdministrator("say what is seen of " + thing);
    doing.needDisposal(thing);
    if (!doing.house().has(Fact.VEILS_TABLES)) {
      throw new MistakeException("nothing lies over tables here");
    }
    if (thing.kept() == null) {
      throw new MistakeException("a veil lies over tables that have their rows here");
    }
    return thing;
  }

  static void rows(Doing doing, Thing thing, @Nullable String condition)
      throws RefusedException, MistakeException {
    Thing table = table(doing, thing);
    if (condition != null) {
      doing.rows().check(table, condition);
    }
    table.veil().rows(condition);
  }

  static void column(Doing doing, Thing thing, String name, @Nullable String value)
      throws RefusedException, MistakeException {
    Thing table = table(doing, thing);
    String column = table.column(name);
    if (column == null) {
      throw new MistakeException("there is no column " + name + " in " + table);
    }
    if (value != null) {
      doing.rows().check(table, value);
    }
    table.veil().column(column, value);
  }

  static void note(Doing doing, Thing thing, String text)
      throws RefusedException, MistakeException {
    table(doing, thing).veil().note(text);
  }

  /** What is known of a user, for veils; no values for no longer. */
  static void attribute(Doing doing, Principal user, String attribute, List<String> values)
      throws RefusedException, MistakeException {
    doing.needAdministrator("say what is known of " + user);
    if (values.isEmpty()) {
      user.attributes().remove(attribute);
    } else {
      user.attributes().put(attribute, List.copyOf(values));
    }
  }
}
