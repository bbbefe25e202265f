package fiador.report.text;

import fiador.changes.steps.AddOption;
import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.CreateRole;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.DefineLookup;
import fiador.changes.steps.Deny;
import fiador.changes.steps.DropRole;
import fiador.changes.steps.DropUser;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.Guard;
import fiador.changes.steps.LetIn;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.Rename;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.SightCases;
import fiador.changes.steps.SightStep;
import fiador.changes.steps.Step;
import fiador.changes.steps.StepCases;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeOver;
import fiador.changes.steps.TakeRole;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;
import java.util.TreeMap;

/** What steps were carried out, counted by what they are. */
public final class StepSummary {
  private StepSummary() {}

  /** Such as "3 grants given, 1 user created". */
  public static String of(List<Step> steps) {
    Kinds kinds = new Kinds();
    Map<String, Integer> counts = new TreeMap<>();
    steps.forEach(step -> counts.merge(step.match(kinds), 1, Integer::sum));
    StringJoiner parts = new StringJoiner(", ");
    counts.forEach(
        (what, count) ->
            parts.add(count + " " + (count == 1 ? what.replaceFirst("s( |$)", "$1") : what)));
    return parts.toString();
  }

  private static final class Kinds implements StepCases<String>, SightCases<String> {
    @Override
    public String createRole(CreateRole step) {
      return "roles created";
    }

    @Override
    public String dropRole(DropRole step) {
      return "users and roles dropped";
    }

    @Override
    public String createUser(CreateUser step) {
      return "users created";
    }

    @Override
    public String dropUser(DropUser step) {
      return "users and roles dropped";
    }

    @Override
    public String rename(Rename step) {
      return "users and roles renamed";
    }

    @Override
    public String letLogIn(LetLogIn step) {
      return "changes of accounts";
    }

    @Override
    public String limitInTime(LimitInTime step) {
      return "changes of accounts";
    }

    @Override
    public String limitAccount(LimitAccount step) {
      return "changes of accounts";
    }

    @Override
    public String setPower(SetPower step) {
      return "changes of powers";
    }

    @Override
    public String giveRole(GiveRole step) {
      return "memberships given";
    }

    @Override
    public String takeRole(TakeRole step) {
      return "memberships taken";
    }

    @Override
    public String takeOver(TakeOver step) {
      return "grants and memberships taken over";
    }

    @Override
    public String defaultRole(DefaultRole step) {
      return "memberships given";
    }

    @Override
    public String grant(Grant step) {
      return "grants given";
    }

    @Override
    public String revoke(Revoke step) {
      return "grants taken";
    }

    @Override
    public String addOption(AddOption step) {
      return "grants given";
    }

    @Override
    public String takeOption(TakeOption step) {
      return "grants taken";
    }

    @Override
    public String deny(Deny step) {
      String meanwhile = step.brief() ? " (for a moment, so that nothing opens meanwhile)" : "";
      return (step.lifted() ? "denials lifted" : "denials given") + meanwhile;
    }

    @Override
    public String grantLater(GrantLater step) {
      return "grants given";
    }

    @Override
    public String revokeLater(RevokeLater step) {
      return "grants taken";
    }

    @Override
    public String changeOwner(ChangeOwner step) {
      return "owners changed";
    }

    @Override
    public String letIn(LetIn step) {
      return step.taking().match(this);
    }

    @Override
    public String sight(SightStep step) {
      return step.matchSight(this);
    }

    @Override
    public String guard(Guard step) {
      return "parts of the guarded schema made";
    }

    @Override
    public String defineLookup(DefineLookup step) {
      return "parts of the guarded schema made";
    }

    @Override
    public String setAttribute(SetAttribute step) {
      return "attributes set";
    }

    @Override
    public String filterRows(FilterRows step) {
      return "row filters settled";
    }

    @Override
    public String showSafely(ShowSafely step) {
      boolean closed = step.after() != null && step.after().showsNothing();
      return closed ? "safe views closed meanwhile" : "safe views settled";
    }

    @Override
    public String moveTable(MoveTable step) {
      return step.aside() ? "tables moved aside" : "tables given their names back";
    }
  }
}
