package fiador.findings;

import fiador.across.Atlas;
import fiador.estate.Principals;
import fiador.evidence.Evidence;
import fiador.evidence.Identities;
import fiador.findings.accounts.AnyHost;
import fiador.findings.accounts.BroadPower;
import fiador.findings.accounts.Climbs;
import fiador.findings.accounts.DisabledHolder;
import fiador.findings.accounts.LeftPerson;
import fiador.findings.accounts.MovedPerson;
import fiador.findings.accounts.NamelessAccount;
import fiador.findings.accounts.NoPerson;
import fiador.findings.accounts.OldSecret;
import fiador.findings.accounts.RefusedOften;
import fiador.findings.accounts.SeveralAccounts;
import fiador.findings.accounts.SharedLogin;
import fiador.findings.accounts.UnusedAccount;
import fiador.findings.accounts.UserAsRole;
import fiador.findings.accounts.WeakSecret;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Expected;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Severity;
import fiador.findings.check.Waiver;
import fiador.findings.denials.DenialHidesGrant;
import fiador.findings.denials.DenialOutlived;
import fiador.findings.denials.DeniedAndGranted;
import fiador.findings.grants.BroadScope;
import fiador.findings.grants.DirectGrant;
import fiador.findings.grants.GrantOption;
import fiador.findings.grants.HeldTwice;
import fiador.findings.grants.LaterUncovered;
import fiador.findings.grants.MissingGate;
import fiador.findings.grants.OpenToEverybody;
import fiador.findings.grants.PartlyCovered;
import fiador.findings.grants.PastTerm;
import fiador.findings.grants.WriteWithoutRead;
import fiador.findings.owners.OddOwner;
import fiador.findings.owners.OrphanedView;
import fiador.findings.owners.PersonOwns;
import fiador.findings.policies.DigestKeyRead;
import fiador.findings.policies.ForeignGuard;
import fiador.findings.policies.MaskBypassed;
import fiador.findings.policies.PolicyChanged;
import fiador.findings.policies.PolicyMissing;
import fiador.findings.policies.ReadFromElsewhere;
import fiador.findings.policies.RowsBypassed;
import fiador.findings.policies.SealPassed;
import fiador.findings.roles.AlikeRoles;
import fiador.findings.roles.DutyConflict;
import fiador.findings.roles.EmptyRole;
import fiador.findings.roles.HollowRole;
import fiador.findings.roles.LongChain;
import fiador.findings.roles.ManyRoles;
import fiador.findings.roles.NotSwitchedOn;
import fiador.findings.roles.OddName;
import fiador.findings.roles.OutsideUmbrella;
import fiador.findings.roles.PastDate;
import fiador.findings.roles.RoleAdmin;
import fiador.findings.roles.RoleHeldTwice;
import fiador.grants.Access;
import fiador.grants.Seen;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * All checks for least privilege over one estate. Cost: grants, memberships and role closures a few
 * times over; never all holdings of all users.
 */
public final class Findings {
  private static final List<Check> CHECKS =
      List.of(
          new BroadPower(),
          new Climbs(),
          new NamelessAccount(),
          new WeakSecret(),
          new LeftPerson(),
          new PastDate(),
          new PastTerm(),
          new DutyConflict(),
          new SealPassed(),
          new RowsBypassed(),
          new MaskBypassed(),
          new ReadFromElsewhere(),
          new PolicyChanged(),
          new PolicyMissing(),
          new ForeignGuard(),
          new OpenToEverybody(),
          new SharedLogin(),
          new DigestKeyRead(),
          new DirectGrant(),
          new BroadScope(),
          new GrantOption(),
          new RoleAdmin(),
          new MissingGate(),
          new WriteWithoutRead(),
          new DeniedAndGranted(),
          new LaterUncovered(),
          new OddOwner(),
          new PersonOwns(),
          new OrphanedView(),
          new MovedPerson(),
          new UnusedAccount(),
          new RefusedOften(),
          new OldSecret(),
          new NoPerson(),
          new AnyHost(),
          new PartlyCovered(),
          new HeldTwice(),
          new RoleHeldTwice(),
          new AlikeRoles(),
          new EmptyRole(),
          new HollowRole(),
          new OutsideUmbrella(),
          new LongChain(),
          new ManyRoles(),
          new UserAsRole(),
          new NotSwitchedOn(),
          new DenialHidesGrant(),
          new DenialOutlived(),
          new DisabledHolder(),
          new SeveralAccounts(),
          new OddName());

  private Findings() {}

  /**
   * What was found.
   *
   * @param open findings that ask for something to be done, the worst first
   * @param waived findings that are accepted at present
   * @param idle waivers that are over or fit nothing any more, each with what is the matter
   * @param notLooked checks that could not be made, for want of what they look at
   */
  public record Result(
      List<Finding> open, List<Finding> waived, List<Idle> idle, List<NotLooked> notLooked) {
    /** The same with findings only that are at least so bad. */
    public Result atLeast(Severity severity) {
      return new Result(
          open.stream().filter(found -> found.asked().severity().compareTo(severity) <= 0).toList(),
          waived,
          idle,
          notLooked);
    }
  }

  /** A waiver that does nothing. */
  public record Idle(Waiver waiver, String why) {}

  /** A check that could not be made. */
  public record NotLooked(Asked asked, String why) {}

  /** Checks that look at people and roles alone, and at nothing in databases. */
  private static final Set<Asked> ABOUT_PEOPLE =
      Set.of(
          NamelessAccount.ASKED,
          WeakSecret.ASKED,
          LeftPerson.ASKED,
          PastDate.ASKED,
          RoleAdmin.ASKED,
          MovedPerson.ASKED,
          UnusedAccount.ASKED,
          OldSecret.ASKED,
          NoPerson.ASKED,
          AnyHost.ASKED,
          RoleHeldTwice.ASKED,
          LongChain.ASKED,
          UserAsRole.ASKED,
          NotSwitchedOn.ASKED,
          SeveralAccounts.ASKED,
          OddName.ASKED);

  /** Whether a check looks at things in databases, which a survey may not have read. */
  public static boolean looksAtThings(Asked asked) {
    return !ABOUT_PEOPLE.contains(asked);
  }

  /** What all checks ask, the worst first. */
  public static List<Asked> catalogue() {
    return CHECKS.stream().map(Check::asked).sorted(Comparator.comparing(Asked::severity)).toList();
  }

  /**
   * Makes all checks.
   *
   * @param expected what the charter expects
   * @param evidence what was used; null where that was not watched
   * @param identities whom the organisation knows; null where no list is at hand
   */
  public static Result of(
      Access access, Clock clock, Expected expected, Evidence evidence, Identities identities) {
    return of(access, clock, expected, evidence, identities, new Atlas(List.of()));
  }

  /**
   * The same, with the other servers on which people may have accounts, and tables that lead here.
   *
   * @param atlas their surveys
   */
  public static Result of(
      Access access,
      Clock clock,
      Expected expected,
      Evidence evidence,
      Identities identities,
      Atlas atlas) {
    Facts facts = new Facts(access, clock, expected, evidence, identities, atlas);
    List<Finding> open = new ArrayList<>();
    List<Finding> waived = new ArrayList<>();
    Waivers waivers = new Waivers(facts);
    for (Check check : CHECKS) {
      if (!expected.limits().off().contains(check.asked().id())) {
        check.look(
            facts,
            found -> {
              Waiver waiver = waivers.of(found);
              (waiver == null ? open : waived).add(waiver == null ? found : found.waived(waiver));
            });
      }
    }
    open.sort(Comparator.comparing(found -> found.asked().severity()));
    return new Result(open, waived, waivers.idle(), notLooked(facts));
  }

  private static List<NotLooked> notLooked(Facts facts) {
    List<NotLooked> missing = new ArrayList<>();
    if (facts.evidence == null) {
      missing.add(new NotLooked(UnusedAccount.ASKED, "no usage evidence was given"));
      missing.add(new NotLooked(RefusedOften.ASKED, "no usage evidence was given"));
    } else if (UnusedAccount.days(facts) < facts.limits.unusedDays()) {
      String why =
          "usage was watched for "
              + UnusedAccount.days(facts)
              + " days, and "
              + facts.limits.unusedDays()
              + " are needed";
      missing.add(new NotLooked(UnusedAccount.ASKED, why));
    }
    String secrets = facts.access.seen().whyNot(Seen.SECRETS);
    if (secrets != null) {
      missing.add(new NotLooked(WeakSecret.ASKED, secrets));
    }
    if (facts.identities == null) {
      for (Asked asked : List.of(LeftPerson.ASKED, NoPerson.ASKED, SeveralAccounts.ASKED)) {
        missing.add(new NotLooked(asked, "no identity list was given"));
      }
    }
    if (facts.identities == null || facts.identities.before().isEmpty()) {
      missing.add(new NotLooked(MovedPerson.ASKED, "no older identity list was given"));
    }
    facts.access.sights().doubts().values().stream()
        .filter(doubt -> !doubt.foreign())
        .forEach(
            doubt -> {
              String why = "what Fiador keeps of policies was not read";
              for (Asked asked :
                  List.of(PolicyChanged.ASKED, RowsBypassed.ASKED, MaskBypassed.ASKED)) {
                missing.add(new NotLooked(asked, why));
              }
            });
    return missing;
  }

  /** Which findings waivers accept. */
  private static final class Waivers {
    private final Facts facts;
    private final LocalDate today;
    private final List<Waiver> used = new ArrayList<>();

    Waivers(Facts facts) {
      this.facts = facts;
      this.today = LocalDate.ofInstant(facts.now, ZoneOffset.UTC);
    }

    Waiver of(Finding found) {
      for (Waiver waiver : facts.expected.waivers()) {
        boolean fits = waiver.finding().equals(found.asked().id()) && isOn(waiver.on(), found);
        if (fits) {
          used.add(waiver);
        }
        if (fits && !waiver.until().isBefore(today)) {
          return waiver;
        }
      }
      return null;
    }

    private boolean isOn(String on, Finding found) {
      String name = on.replaceFirst("^(user|role|schema|table|view|database|routine) ", "");
      int who = found.principal();
      boolean person =
          who > Principals.PUBLIC
              && Stream.of(facts.people.name(who), facts.bare(who))
                  .anyMatch(
                      stored ->
                          stored.equals(name) || stored.equals(facts.access.rules().fold(name)));
      if (person || found.node() < 0) {
        return person;
      }
      String path = facts.tree.path(found.node());
      String folded = facts.access.rules().fold(name);
      return Stream.of(name, folded).anyMatch(one -> path.equals(one) || path.endsWith("." + one));
    }

    List<Idle> idle() {
      return facts.expected.waivers().stream()
          .filter(waiver -> waiver.until().isBefore(today) || !used.contains(waiver))
          .map(
              waiver ->
                  new Idle(
                      waiver,
                      waiver.until().isBefore(today)
                          ? "ended on " + waiver.until()
                          : "fits nothing that was found"))
          .collect(Collectors.toList());
    }
  }
}
