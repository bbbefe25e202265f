package fiador.sweep.estate;

import fiador.evidence.Identities;
import fiador.work.sweeping.LabelRule;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is known beside surveys, in a form that travels to whoever works one out.
 *
 * @param people the people there are; null where no list is at hand
 * @param labels which things carry a label
 * @param now the second since 1970 it is
 */
public record Known(@Nullable ArrayList<Person> people, ArrayList<LabelRule> labels, long now)
    implements Serializable {
  /** Somebody, as {@link Identities.Identity}. */
  public record Person(
      String key,
      String name,
      boolean active,
      @Nullable String manager,
      @Nullable String unit,
      ArrayList<String> accounts,
      @Nullable String unitBefore)
      implements Serializable {}

  /** What is known. */
  public static Known of(@Nullable Identities people, List<LabelRule> labels, long now) {
    ArrayList<Person> all = null;
    if (people != null) {
      all = new ArrayList<>();
      for (Identities.Identity each : people.people()) {
        all.add(
            new Person(
                each.key(),
                each.name(),
                each.active(),
                each.manager(),
                each.unit(),
                new ArrayList<>(each.accounts()),
                people.before().get(each.key())));
      }
    }
    return new Known(all, new ArrayList<>(labels), now);
  }

  /** The people, as checks want them. */
  @Nullable Identities identities() {
    if (people == null) {
      return null;
    }
    List<Identities.Identity> all = new ArrayList<>();
    java.util.Map<String, String> before = new java.util.HashMap<>();
    for (Person each : people) {
      all.add(
          new Identities.Identity(
              each.key(),
              each.name(),
              each.active(),
              each.manager(),
              each.unit(),
              each.accounts()));
      if (each.unitBefore() != null) {
        before.put(each.key(), each.unitBefore());
      }
    }
    return new Identities(all, before);
  }
}
