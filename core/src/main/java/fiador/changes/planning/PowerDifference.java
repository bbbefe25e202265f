package fiador.changes.planning;

import fiador.changes.steps.SetPower;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.estate.Power;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.util.Collection;
import java.util.List;
import java.util.Set;

/** The powers that somebody is to have and lacks, or has and is not to have, where that is said. */
final class PowerDifference {
  private final Access access;
  private final Set<String> untouchable;
  private final Collection<Step> give;
  private final Collection<Step> take;
  private final Collection<String> notes;

  PowerDifference(
      Access access,
      Set<String> untouchable,
      Collection<Step> give,
      Collection<Step> take,
      Collection<String> notes) {
    this.access = access;
    this.untouchable = untouchable;
    this.give = give;
    this.take = take;
    this.notes = notes;
  }

  /**
   * Adds the steps.
   *
   * @param names what the principal is called on the server
   */
  void compare(Wanted.Principal wanted, List<String> names) {
    Set<Power> powers = wanted.powers();
    if (powers == null) {
      return;
    }
    if (!access.rules().has(HouseFact.SETS_POWERS)) {
      notes.add(
          access.rules().kind()
              + " has no powers to set: \"powers\" of "
              + wanted.name()
              + " is left out");
      return;
    }
    for (String name : names) {
      int id = access.principals().named(name);
      boolean administers =
          id >= 0 && access.principals().has(id, Power.SUPERUSER) || untouchable.contains(name);
      if (administers) {
        notes.add(wanted.name() + " administers the server: its powers are left alone");
        continue;
      }
      for (Power power : Power.values()) {
        boolean is = id >= 0 && access.principals().has(id, power);
        boolean should = powers.contains(power);
        if (SetPower.SETTABLE.contains(power) && is != should) {
          (should ? give : take).add(new SetPower(name, power, should));
        }
      }
    }
  }
}
