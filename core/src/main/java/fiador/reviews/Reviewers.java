package fiador.reviews;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.grants.Access;
import fiador.grants.Memberships;
import fiador.reviews.Drafting.Draft;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;

/** Who is asked about a line. Nobody is asked about their own access. */
public final class Reviewers {
  /** Whom to ask where nobody was named. */
  public enum By {
    /** The owner of the schema. */
    SCHEMA,
    /** Whoever may give the role to others; the owner of the schema for other lines. */
    ROLE,
    /** The person's manager, from the identity list. */
    MANAGER
  }

  private final Access access;
  private final By by;
  private final Map<String, String> named;
  private final String otherwise;
  private final Map<String, Identity> byAccount = new HashMap<>();
  private final Map<String, Identity> byKey = new HashMap<>();
  private final UnaryOperator<String> shown;

  /**
   * @param named reviewers by the schema or role they are asked about
   * @param otherwise whom to ask where there is nobody else, or null
   * @param identities the people there are, or null
   * @param shown names as people write them
   */
  public Reviewers(
      Access access,
      By by,
      Map<String, String> named,
      String otherwise,
      Identities identities,
      UnaryOperator<String> shown) {
    this.access = access;
    this.by = by;
    this.named = named;
    this.otherwise = otherwise;
    this.shown = shown;
    Identities here = identities == null ? null : identities.on(access.about().server());
    for (Identity person : here == null ? List.<Identity>of() : here.people()) {
      byKey.put(person.key(), person);
      person.accounts().forEach(account -> byAccount.put(folded(account), person));
    }
  }

  private static String folded(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  /** Who is asked, or null where nobody can be found. */
  public String of(Draft draft) {
    Set<String> tried = new LinkedHashSet<>();
    tried.add(named.get(draft.about().through()));
    tried.add(named.get(draft.about().area()));
    switch (by) {
      case SCHEMA -> tried.add(owner(draft.area()));
      case ROLE -> {
        tried.add(admin(draft.role()));
        tried.add(owner(draft.area()));
      }
      case MANAGER -> tried.add(manager(draft.about().user()));
    }
    tried.add(otherwise);
    for (String reviewer : tried) {
      if (reviewer != null && !isSame(reviewer, draft.about().user())) {
        return reviewer;
      }
    }
    return null;
  }

  private boolean isSame(String reviewer, String user) {
    Identity person = byAccount.get(folded(user));
    Identity asked = byAccount.get(folded(reviewer));
    return folded(reviewer).equals(folded(user))
        || person != null && (person.equals(asked) || person.name().equalsIgnoreCase(reviewer));
  }

  /** The owner of a schema: a user, or the one user who has the role that owns it. */
  private String owner(int area) {
    int schema = access.tree().enclosing(area, NodeKind.SCHEMA);
    int owner = schema < 0 ? -1 : access.tree().owner(schema);
    boolean servers = owner > 0 && access.rules().isOwn(access.principals().name(owner));
    if (owner <= 0 || servers || access.principals().has(owner, Power.SUPERUSER)) {
      return null;
    }
    if (access.principals().isUser(owner)) {
      return shown.apply(access.principals().name(owner));
    }
    int found = -1;
    Memberships memberships = access.memberships();
    for (int edge : memberships.membersOf().run(owner)) {
      if (access.principals().isUser(memberships.member(edge))) {
        if (found >= 0) {
          return shown.apply(access.principals().name(owner));
        }
        found = memberships.member(edge);
      }
    }
    return found < 0 ? null : shown.apply(access.principals().name(found));
  }

  private String admin(int role) {
    Memberships memberships = access.memberships();
    for (int edge : role < 0 ? new int[0] : memberships.membersOf().run(role)) {
      int member = memberships.member(edge);
      boolean admin = memberships.options(edge).admin() && access.principals().isUser(member);
      if (admin && !access.principals().has(member, Power.SUPERUSER)) {
        return shown.apply(access.principals().name(member));
      }
    }
    return null;
  }

  private String manager(String user) {
    Identity person = byAccount.get(folded(user));
    Identity manager = person == null ? null : byKey.get(person.manager());
    if (manager == null || !manager.active()) {
      return null;
    }
    return manager.accounts().isEmpty() ? manager.name() : manager.accounts().get(0);
  }
}
