package fiador.changes.wanted;

import fiador.grants.AccountName;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What of a charter a kind of server cannot have: seen without asking any server. */
public final class PaperProblems {
  private PaperProblems() {}

  /** What of a charter a kind of server cannot have; no server is asked. */
  public static List<Problem> of(Wanted wanted, HouseRules rules) {
    List<Problem> found = nameProblems(wanted, rules);
    found.addAll(usersAsRoles(wanted, rules));
    found.addAll(localPrincipals(wanted, rules));
    found.addAll(optionsForEverybody(wanted, rules));
    found.addAll(rolesOfEverybody(wanted, rules));
    found.addAll(options(wanted, rules));
    found.addAll(rightsOfUsers(wanted, rules));
    found.addAll(circles(wanted, rules));
    return found;
  }

  /** What everybody is to be allowed to grant on where that cannot be. */
  private static List<Problem> optionsForEverybody(Wanted wanted, HouseRules rules) {
    boolean can = rules.has(HouseFact.OPTION_FOR_EVERYBODY);
    return wanted.grants().stream()
        .filter(grant -> grant.grantOption() && grant.grantee().equals(Wanted.EVERYBODY) && !can)
        .map(
            grant ->
                new Problem(
                    grant.place(),
                    rules.kind() + " gives the right to grant on to roles only, not to everybody"))
        .toList();
  }

  /** Rights to give on where there are none. */
  private static List<Problem> options(Wanted wanted, HouseRules rules) {
    List<Problem> found = new ArrayList<>();
    for (Wanted.Grant grant : wanted.grants()) {
      if (grant.grantOption() && !rules.has(HouseFact.GRANT_OPTIONS)) {
        found.add(new Problem(grant.place(), rules.kind() + " has no right to grant on"));
      }
    }
    return found;
  }

  /** What users are to be given themselves where only roles are given anything. */
  private static List<Problem> rightsOfUsers(Wanted wanted, HouseRules rules) {
    Set<String> users = new LinkedHashSet<>();
    wanted.users().forEach(user -> users.add(user.name()));
    List<Problem> found = new ArrayList<>();
    for (Wanted.Grant grant : wanted.grants()) {
      if (users.contains(grant.grantee()) && rules.has(HouseFact.ROLES_ONLY)) {
        found.add(
            new Problem(
                grant.place(),
                rules.kind()
                    + " gives privileges to roles only: give "
                    + grant.grantee()
                    + " a role"));
      }
    }
    return found;
  }

  /** Roles that everybody is to hold where that cannot be. */
  private static List<Problem> rolesOfEverybody(Wanted wanted, HouseRules rules) {
    boolean can = rules.has(HouseFact.EVERYBODY_HOLDS_ROLES);
    return wanted.memberships().stream()
        .filter(member -> member.member().equals(Wanted.EVERYBODY) && !can)
        .map(
            member ->
                new Problem(
                    member.place(),
                    "on " + rules.kind() + " everybody holds no roles: say what everybody may"))
        .toList();
  }

  /** Roles that are to include each other where that cannot be. */
  private static List<Problem> circles(Wanted wanted, HouseRules rules) {
    List<Problem> found = new ArrayList<>();
    if (rules.has(HouseFact.ROLES_IN_CIRCLES)) {
      return found;
    }
    Map<String, List<String>> includes = new LinkedHashMap<>();
    for (Wanted.Member member : wanted.memberships()) {
      includes.computeIfAbsent(member.member(), fresh -> new ArrayList<>()).add(member.role());
    }
    for (List<String> circle : RoleCircles.in(includes)) {
      String last = circle.get(circle.size() - 2);
      Wanted.Member closing =
          wanted.memberships().stream()
              .filter(one -> one.member().equals(last) && one.role().equals(circle.get(0)))
              .findFirst()
              .orElseThrow();
      found.add(
          new Problem(
              closing.place(),
              "on "
                  + rules.kind()
                  + " roles cannot include each other: "
                  + String.join(" > ", circle)));
    }
    return found;
  }

  /** Users and roles that are to be known in one database where that cannot be. */
  private static List<Problem> localPrincipals(Wanted wanted, HouseRules rules) {
    List<Problem> found = new ArrayList<>();
    for (List<Wanted.Principal> all : List.of(wanted.roles(), wanted.users())) {
      for (Wanted.Principal one : all) {
        if (one.knownIn() != null && !rules.has(HouseFact.LOCAL_PRINCIPALS)) {
          found.add(
              new Problem(
                  one.place(),
                  one.name()
                      + " is to be known in "
                      + one.knownIn()
                      + " only, but "
                      + rules.kind()
                      + " knows users and roles on the whole server: leave out \"known_in\" and grant"
                      + " on that database alone"));
        }
      }
    }
    return found;
  }

  /** Users that are to be held like roles where they cannot. */
  private static List<Problem> usersAsRoles(Wanted wanted, HouseRules rules) {
    Set<String> users = new LinkedHashSet<>();
    wanted.users().forEach(user -> users.add(user.name()));
    List<Problem> found = new ArrayList<>();
    for (Wanted.Member member : wanted.memberships()) {
      if (users.contains(member.role()) && !rules.has(HouseFact.USERS_ARE_ROLES)) {
        found.add(
            new Problem(
                member.place(),
                member.role() + " is a user; on " + rules.kind() + " only roles can be held"));
      }
    }
    return found;
  }

  /** The names that a kind of server cannot have. */
  private static List<Problem> nameProblems(Wanted wanted, HouseRules rules) {
    boolean byHost = rules.has(HouseFact.ACCOUNTS_BY_HOST);
    List<Problem> found = new ArrayList<>();
    for (Wanted.Principal role : wanted.roles()) {
      nameProblem(role, rules, StoredName.of(role.name(), rules), byHost, found);
    }
    for (Wanted.Principal user : wanted.users()) {
      String name = StoredName.of(user.name(), rules);
      String bare = byHost ? AccountName.of(name).user() : name;
      nameProblem(user, rules, bare, false, found);
    }
    return found;
  }

  private static void nameProblem(
      Wanted.Principal wanted, HouseRules rules, String name, boolean noAt, List<Problem> found) {
    String refused =
        name.equalsIgnoreCase("PUBLIC")
            ? "PUBLIC is everybody, and no role or user: say what everybody may under \"public\""
            : rules.refusesName(name);
    if (refused == null && noAt && name.indexOf('@') >= 0) {
      refused = "a role's name cannot hold @, which stands before an account's host";
    }
    if (refused != null) {
      found.add(new Problem(wanted.place(), wanted.name() + ": " + refused));
    }
  }
}
