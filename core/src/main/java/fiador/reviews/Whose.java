package fiador.reviews;

import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.evidence.PeopleOf;
import fiador.grants.Access;
import fiador.reviews.Drafting.Draft;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Whose accounts a review asks about, so that whoever answers sees one person in several. */
public final class Whose {
  private final Access access;
  private final PeopleOf people;
  private final Map<String, Identity> asWritten = new HashMap<>();
  private final Map<String, Set<String>> here = new HashMap<>();

  /** By a list of people, which may name accounts of other servers too. */
  public Whose(Access access, Identities identities) {
    this.access = access;
    this.people = new PeopleOf(access, identities);
    identities.people().forEach(person -> asWritten.put(person.key(), person));
    for (int id = 1; id < access.principals().size(); id++) {
      Identity person = access.principals().isUser(id) ? people.of(id) : null;
      if (person != null) {
        here.computeIfAbsent(person.key(), none -> new LinkedHashSet<>())
            .add(access.principals().name(id));
      }
    }
  }

  /** Everybody's accounts here that the person of that key or name has. */
  public Set<String> accounts(String person) {
    Set<String> found = new LinkedHashSet<>();
    for (Identity each : asWritten.values()) {
      if (each.key().equals(person) || each.name().equalsIgnoreCase(person)) {
        found.addAll(here.getOrDefault(each.key(), Set.of()));
      }
    }
    return found;
  }

  /** Who somebody is and as whom else they log in; null where the account's name says it all. */
  public @Nullable String of(int user) {
    Identity person = user <= 0 ? null : people.of(user);
    if (person == null) {
      return null;
    }
    String own = access.principals().name(user);
    List<String> said = new ArrayList<>();
    boolean called =
        person.name().equalsIgnoreCase(own)
            || person.name().equalsIgnoreCase(access.bareName(user));
    if (!called) {
      said.add(person.name());
    }
    Set<String> others = new LinkedHashSet<>(here.getOrDefault(person.key(), Set.of()));
    others.remove(own);
    List<String> also = new ArrayList<>(others);
    elsewhere(asWritten.getOrDefault(person.key(), person), also);
    if (!also.isEmpty()) {
      said.add("also " + String.join(", ", also));
    }
    return said.isEmpty() ? null : String.join("; ", said);
  }

  private void elsewhere(Identity person, List<String> also) {
    for (String account : person.accounts()) {
      int at = account.indexOf(':');
      if (at > 0 && !account.substring(0, at).equals(access.about().server())) {
        also.add(account.substring(at + 1) + " on " + account.substring(0, at));
      }
    }
  }

  /** The same with all accounts of one person together, where the first of them stood. */
  public List<Draft> together(List<Draft> drafts) {
    Map<Object, List<Draft>> byPerson = new java.util.LinkedHashMap<>();
    for (Draft draft : drafts) {
      Identity person = draft.user() <= 0 ? null : people.of(draft.user());
      Object whose = person == null ? draft.about().user() : person.key() + "\n";
      byPerson.computeIfAbsent(whose, none -> new ArrayList<>()).add(draft);
    }
    return byPerson.values().stream().flatMap(List::stream).toList();
  }
}
