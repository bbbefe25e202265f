package fiador.files.charter;

import fiador.changes.wanted.Accounts;
import fiador.changes.wanted.Period;
import fiador.changes.wanted.RoleCircles;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.estate.Nearest;
import fiador.estate.NodeKind;
import fiador.files.charter.Draft.RoleEntry;
import fiador.files.charter.Draft.UserEntry;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import fiador.grants.Membership;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.proofs.Proof;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/** Checks that all names of a draft lead somewhere, and makes the charter. */
final class CharterLinker {
  private final Draft draft;
  private final Mistakes mistakes;

  CharterLinker(Draft draft, Mistakes mistakes) {
    this.draft = draft;
    this.mistakes = mistakes;
  }

  Charter link() {
    List<Wanted.Principal> roles = new ArrayList<>();
    List<Wanted.Principal> users = new ArrayList<>();
    List<Wanted.Member> memberships = new ArrayList<>();
    List<Wanted.Grant> grants = new ArrayList<>();
    List<Wanted.Grant> refused = new ArrayList<>();
    List<Wanted.Owned> owned = new ArrayList<>();
    for (RoleEntry role : draft.roles.values()) {
      roles.add(principal(role.name(), Wanted.LoginTerms.PLAIN));
      link(role.name(), role.includes(), memberships);
      role.may().forEach(sentence -> grants.addAll(grants(role.name(), sentence)));
      role.mayNot().forEach(sentence -> refused.addAll(grants(role.name(), sentence)));
      role.owns().forEach(text -> owned(role, text, owned));
    }
    for (UserEntry user : draft.users.values()) {
      users.add(principal(user.name(), user.login()));
      user.may().forEach(sentence -> grants.addAll(grants(user.name(), sentence)));
      link(user.name(), user.roles(), memberships);
      checkNotARole(user.name());
    }
    Scalar everybody = new Scalar(Wanted.EVERYBODY, false, new Wanted.Place("", 0, 0));
    link(everybody, draft.everybodysRoles, memberships);
    draft.everybodyMay.forEach(sentence -> grants.addAll(grants(everybody, sentence)));
    checkSameFolded();
    SightLinker policies = new SightLinker(draft, mistakes);
    WantedSight sight = policies.link();
    policies.checkLabels(grants);
    policies.checkLabels(refused);
    new CharterChecks(draft, mistakes).check();
    findCircles();
    Accounts accounts = new AccountLinker(draft, mistakes).link();
    if (draft.heads.isEmpty()) {
      mistakes.add(
          new Wanted.Place(CharterReader.ROOT, 1, 1),
          "\"fiador: 1\" is missing, the charter's version");
    }
    Wanted.Governs governs =
        new Wanted.Governs(
            texts(draft.governedSchemas),
            texts(draft.governedRoles),
            texts(draft.governedUsers),
            draft.governsEverybody);
    Wanted wanted = new Wanted(roles, users, memberships, grants, refused, owned, governs, sight);
    return new Charter(
        draft.estate == null ? "" : draft.estate.text(),
        java.util.Collections.unmodifiableMap(draft.servers),
        draft.ledger,
        wanted,
        proofs(),
        ReviewSections.expected(draft, wanted, accounts),
        java.util.Collections.unmodifiableMap(draft.reviewKeys));
  }

  private List<Charter.Sentence> proofs() {
    ProofReader reader = new ProofReader(mistakes);
    List<Charter.Sentence> found = new ArrayList<>();
    for (Scalar text : draft.proofs) {
      Proof proof = reader.read(text);
      if (proof != null) {
        found.add(new Charter.Sentence(text.text(), proof, text.place()));
      }
    }
    return found;
  }

  private static List<String> texts(List<Scalar> scalars) {
    return scalars.stream().map(Scalar::text).toList();
  }

  static List<Wanted.Grant> grants(Scalar grantee, Sentence sentence) {
    return sentence.targets().stream()
        .map(
            target ->
                new Wanted.Grant(
                    grantee.text(),
                    sentence.actions(),
                    target,
                    sentence.now(),
                    sentence.later() && target instanceof Wanted.Every,
                    sentence.grantOption(),
                    sentence.madeBy(),
                    sentence.when(),
                    sentence.place()))
        .toList();
  }

  private Wanted.Principal principal(Scalar name, Wanted.LoginTerms login) {
    Scalar was = draft.was.get(name.text());
    if (was != null
        && (draft.roles.containsKey(was.text()) || draft.users.containsKey(was.text()))) {
      mistakes.add(
          was.place(), name.text() + " was called " + was.text() + ", which is listed here too");
    }
    return new Wanted.Principal(
        name.text(),
        login,
        draft.knownIn.get(name.text()),
        was == null ? null : was.text(),
        draft.powers.get(name.text()),
        name.place());
  }

  private static final String INSIDE = " and everything in it";

  private void owned(RoleEntry role, Scalar text, List<Wanted.Owned> owned) {
    boolean inside = text.text().endsWith(INSIDE);
    String name =
        inside ? text.text().substring(0, text.text().length() - INSIDE.length()) : text.text();
    int blank = name.indexOf(' ');
    NodeKind kind = blank < 0 ? null : NodeKind.named(name.substring(0, blank));
    if (kind == null) {
      mistakes.add(
          text.place(),
          "found \""
              + text.text()
              + "\", expected a kind and a name, such as \"schema metering and everything in it\"");
      return;
    }
    Wanted.Single target = new Wanted.Single(kind, name.substring(blank + 1));
    owned.add(new Wanted.Owned(role.name().text(), target, inside, text.place()));
  }

  private void link(Scalar member, List<Scalar> names, List<Wanted.Member> memberships) {
    List<Phrase> seen = new ArrayList<>();
    for (Scalar name : names) {
      boolean user = name.text().startsWith(Phrase.USER);
      String text = user ? name.text().substring(Phrase.USER.length()) : name.text();
      Set<String> known = user ? draft.users.keySet() : draft.roles.keySet();
      Scalar written = new Scalar(text, name.quoted(), name.place());
      Phrase phrase =
          Phrase.of(written, role -> known.contains(role) || !user && isBuiltIn(role), mistakes);
      if (phrase == null) {
        mistakes.add(
            name.place(),
            "there is no "
                + (user ? "user" : "role")
                + " \""
                + text
                + "\" in the charter"
                + Nearest.hint(text, known.stream()));
      } else if (seen.stream()
          .anyMatch(one -> one.role().equals(phrase.role()) && one.when().meets(phrase.when()))) {
        mistakes.add(name.place(), "role " + phrase.role() + " stands in the list twice");
      } else {
        seen.add(phrase);
        memberships.add(
            new Wanted.Member(
                member.text(), phrase.role(), phrase.how(), phrase.when(), name.place()));
      }
    }
  }

  /** Whether a kind of server among the charter's brings a role of that name along. */
  private boolean isBuiltIn(String name) {
    for (Charter.ServerEntry server : draft.servers.values()) {
      HouseRules rules = server.rules();
      if (rules != null && !name.contains(" ") && rules.isOwn(rules.fold(name))) {
        return true;
      }
    }
    return false;
  }

  /** A role and how it is held: "auditor on request with admin option until 2027-03-31". */
  record Phrase(String role, Membership how, Period when) {
    /** Before a user who is held like a role. */
    static final String USER = "user ";

    private static final Wanted.Place NOWHERE = new Wanted.Place("", 0, 0);
    private static final String ADMIN = " with admin option";
    private static final String REQUEST = " on request";
    private static final String FIXED = " without switching";

    /** What the text means, whatever is wrong with its times; null if the role is not known. */
    static Phrase of(String text, Set<String> roles) {
      return of(new Scalar(text, false, NOWHERE), roles::contains, new Mistakes());
    }

    /** What the text means; null if the role is not known. */
    static Phrase of(Scalar text, Predicate<String> roles, Mistakes mistakes) {
      Moments.Timed timed =
          roles.test(text.text())
              ? new Moments.Timed(text, Period.ALWAYS)
              : Moments.split(text, mistakes);
      String rest = timed.text().text();
      boolean admin = !roles.test(rest) && rest.endsWith(ADMIN);
      rest = admin ? rest.substring(0, rest.length() - ADMIN.length()) : rest;
      boolean request = !roles.test(rest) && rest.endsWith(REQUEST);
      rest = request ? rest.substring(0, rest.length() - REQUEST.length()) : rest;
      boolean fixed = !roles.test(rest) && rest.endsWith(FIXED);
      rest = fixed ? rest.substring(0, rest.length() - FIXED.length()) : rest;
      return roles.test(rest)
          ? new Phrase(rest, Membership.of(admin, !request, !fixed), timed.when())
          : null;
    }
  }

  private void checkNotARole(Scalar user) {
    RoleEntry role = draft.roles.get(user.text());
    if (role != null) {
      mistakes.add(
          user.place(), user.text() + " is a user here and a role at " + role.name().place());
    }
  }

  /** Names that a server would fold into one. */
  private void checkSameFolded() {
    Map<String, Scalar> folded = new HashMap<>();
    List<Scalar> names = new ArrayList<>();
    draft.roles.values().forEach(role -> names.add(role.name()));
    draft.users.values().forEach(user -> names.add(user.name()));
    for (Scalar name : names) {
      if (name.text().startsWith("\"")) {
        continue;
      }
      Scalar before = folded.putIfAbsent(name.text().toLowerCase(Locale.ROOT), name);
      if (before != null && !before.text().equals(name.text())) {
        mistakes.add(
            name.place(),
            name.text()
                + " and "
                + before.text()
                + " ("
                + before.place()
                + ") differ only in upper and lower case");
      }
    }
  }

  /** Roles that include each other in a circle, where no server of the charter takes such. */
  private void findCircles() {
    boolean taken =
        draft.servers.values().stream()
            .map(Charter.ServerEntry::rules)
            .anyMatch(rules -> rules != null && rules.has(HouseFact.ROLES_IN_CIRCLES));
    Map<String, List<String>> includes = new LinkedHashMap<>();
    draft.roles.forEach(
        (name, role) -> includes.put(name, role.includes().stream().map(this::included).toList()));
    for (List<String> circle : taken ? List.<List<String>>of() : RoleCircles.in(includes)) {
      RoleEntry last = draft.roles.get(circle.get(circle.size() - 2));
      Scalar closing =
          last.includes().stream()
              .filter(text -> included(text).equals(circle.get(0)))
              .findFirst()
              .orElseThrow();
      mistakes.add(closing.place(), "roles include each other: " + String.join(" > ", circle));
    }
  }

  private String included(Scalar text) {
    Phrase phrase = Phrase.of(text.text(), draft.roles.keySet());
    return phrase == null ? text.text() : phrase.role();
  }
}
