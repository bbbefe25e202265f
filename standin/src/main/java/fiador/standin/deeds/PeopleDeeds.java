package fiador.standin.deeds;

import fiador.standin.estate.Judge;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.Principal.Sort;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Session;
import fiador.standin.house.House.Fact;
import java.util.Set;
import java.util.regex.Matcher;
import org.jspecify.annotations.Nullable;

/** Statements about users, roles and who holds which. */
final class PeopleDeeds {
  private PeopleDeeds() {}

  static void createUser(Doing doing, String name, @Nullable Secret secret)
      throws RefusedException, MistakeException {
    doing.needAccounts("create users");
    Principal user = doing.warehouse().create(Sort.USER, name);
    if (secret != null) {
      keep(doing, user, secret, false);
    }
  }

  static void createRole(Doing doing, String name) throws RefusedException, MistakeException {
    doing.needAccounts("create roles");
    doing.warehouse().create(Sort.ROLE, name);
  }

  /**
   * A secret in a statement.
   *
   * @param text what is between its quotes
   * @param hashed whether it stands there as it is checked
   * @param literal as it was written
   */
  record Secret(String text, boolean hashed, String literal) {}

  private static void keep(Doing doing, Principal user, Secret secret, boolean own)
      throws MistakeException {
    if (secret.hashed() && !doing.again()) {
      throw new MistakeException("a secret is given as it is; it is kept hashed anyway");
    }
    String hashed = secret.hashed() ? secret.text() : Secrets.hash(secret.text().toCharArray());
    user.secret(hashed, own);
    if (!secret.hashed()) {
      // the secret stands last
      int at = doing.text().lastIndexOf(secret.literal());
      doing.text(
          doing.text().substring(0, at) + "HASHED '" + Matcher.quoteReplacement(hashed) + "'");
    }
  }

  /** Who keeps accounts keeps no administrators: else they could make themselves one. */
  private static void needOver(Doing doing, Principal whom, String what) throws RefusedException {
    Set<Principal> with = doing.warehouse().closure(Set.of(whom));
    if (with.stream().anyMatch(role -> role.powers().contains(Judge.ADMINISTRATOR))) {
      doing.needAdministrator(what + ", who administers the server");
    }
    doing.needAccounts(what);
  }

  static void setSecret(Doing doing, String name, Secret secret)
      throws RefusedException, MistakeException {
    Principal user = doing.of(Sort.USER, name);
    boolean own = doing.session().user() == user;
    if (!own) {
      needOver(doing, user, "set the secret of " + name);
      doing.needWithin(user);
    }
    // whoever acts as somebody else knows the secret that they set
    keep(doing, user, secret, own && doing.kept().getBehind() == null);
  }

  static void lock(Doing doing, String name, boolean out)
      throws RefusedException, MistakeException {
    has(doing, Fact.LOCKS_ACCOUNTS, "accounts are not locked here");
    Principal user = doing.of(Sort.USER, name);
    needOver(doing, user, "lock " + name);
    user.lock(out);
  }

  static void rename(Doing doing, Sort sort, String name, String to)
      throws RefusedException, MistakeException {
    boolean user = sort == Sort.USER;
    has(
        doing,
        user ? Fact.RENAMES_USERS : Fact.RENAMES_ROLES,
        (user ? "users" : "roles") + " keep their names here");
    Principal principal = doing.of(sort, name);
    needOver(doing, principal, "rename " + name);
    doing.warehouse().rename(principal, to);
  }

  static void drop(Doing doing, Sort sort, String name) throws RefusedException, MistakeException {
    Principal principal = doing.of(sort, name);
    needOver(doing, principal, "drop " + name);
    if (principal == doing.session().user()) {
      throw new MistakeException("nobody drops themselves");
    }
    doing.warehouse().drop(principal);
  }

  /** Who may do everything may see what another can do, for the rest of the session. */
  static void actAs(Doing doing, String name) throws RefusedException, MistakeException {
    doing.needAdministrator("act as somebody else");
    doing.needWithin(doing.of(Sort.USER, name));
    Session theirs = doing.judge().login(doing.of(Sort.USER, name));
    String missing = doing.judge().missingToEnter(theirs);
    if (missing != null) {
      throw new RefusedException(missing);
    }
    doing.session(theirs);
  }

  static void defaultRole(Doing doing, String name, @Nullable String role)
      throws RefusedException, MistakeException {
    has(doing, Fact.DEFAULT_ROLES, "there are no default roles here");
    Principal user = doing.of(Sort.USER, name);
    if (doing.session().user() != user) {
      doing.needAccounts("set the default role of " + name);
    }
    Principal on = role == null ? null : doing.of(Sort.ROLE, role);
    if (on != null && !doing.warehouse().rolesOf(user).containsKey(on)) {
      throw new MistakeException(name + " does not hold the role " + role);
    }
    user.defaultRole(on);
  }

  static void giveRole(Doing doing, String name, @Nullable String to, boolean option)
      throws RefusedException, MistakeException {
    Principal role = doing.of(Sort.ROLE, name);
    Principal member = member(doing, to);
    if (member == role) {
      throw new MistakeException("a role does not hold itself");
    }
    boolean circle = doing.warehouse().closure(Set.of(role)).contains(member);
    if (circle && !doing.house().has(Fact.ROLES_IN_CIRCLES)) {
      throw new MistakeException(role + " holds " + member + " already, and circles are not taken");
    }
    needToGive(doing, role);
    doing.warehouse().giveRole(member, role, option);
  }

  static void takeRole(Doing doing, String name, @Nullable String from, boolean optionOnly)
      throws RefusedException, MistakeException {
    Principal role = doing.of(Sort.ROLE, name);
    Principal member = member(doing, from);
    needToGive(doing, role);
    if (doing.warehouse().rolesOf(member).get(role) == null) {
      throw new MistakeException(member + " was not given the role " + role);
    }
    doing.warehouse().takeRole(member, role, optionOnly);
  }

  private static Principal member(Doing doing, @Nullable String name) throws MistakeException {
    if (name != null) {
      return doing.principal(name);
    }
    has(doing, Fact.EVERYBODY_HOLDS_ROLES, "not everybody can be given a role here");
    return doing.warehouse().everybody();
  }

  private static void needToGive(Doing doing, Principal role) throws RefusedException {
    boolean option =
        doing.session().on().stream()
            .anyMatch(who -> doing.warehouse().rolesOf(who).getOrDefault(role, false));
    if (!option) {
      needOver(doing, role, "give the role " + role.name());
      doing.needWithin(role);
    }
  }

  static void setPower(Doing doing, String power, String name, boolean given)
      throws RefusedException, MistakeException {
    doing.needAdministrator("give powers");
    boolean known =
        power.equals(Judge.ADMINISTRATOR)
            || power.equals(Judge.KEEPER)
            || doing.house().powers().containsKey(power);
    if (!known) {
      throw new MistakeException("there is no power '" + power + "'; there are " + powers(doing));
    }
    Principal principal = doing.principal(name);
    if (given) {
      principal.powers().add(power);
    } else if (principal == doing.session().user() && power.equals(Judge.ADMINISTRATOR)) {
      throw new MistakeException("nobody takes this from themselves");
    } else {
      principal.powers().remove(power);
    }
  }

  private static String powers(Doing doing) {
    StringBuilder known =
        new StringBuilder("'" + Judge.ADMINISTRATOR + "', '" + Judge.KEEPER + "'");
    doing.house().powers().keySet().forEach(power -> known.append(", '").append(power).append("'"));
    return known.toString();
  }

  private static void has(Doing doing, Fact fact, String otherwise) throws MistakeException {
    if (!doing.house().has(fact)) {
      throw new MistakeException(otherwise);
    }
  }
}
