package fiador.report.text;

import fiador.effects.Obstacle;
import fiador.effects.Obstacle.ClosedDatabase;
import fiador.effects.Obstacle.Denied;
import fiador.effects.Obstacle.Disabled;
import fiador.effects.Obstacle.Ended;
import fiador.effects.Obstacle.Guarded;
import fiador.effects.Obstacle.MissingGate;
import fiador.effects.Obstacle.NothingGivesIt;
import fiador.effects.Obstacle.OnlyColumns;
import fiador.effects.Obstacle.Over;
import fiador.effects.Obstacle.OwnerGone;
import fiador.effects.Obstacle.UnderView;
import fiador.effects.Obstacle.Withheld;
import fiador.effects.Remedy;
import fiador.effects.Trace;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import java.util.BitSet;
import java.util.StringJoiner;

/** Why a privilege is not held, and what would help, in words. */
public final class TraceWords {
  private final Access access;
  private final Shown shown;

  /** Names as {@code shown} has them. */
  public TraceWords(Access access, Shown shown) {
    this.access = access;
    this.shown = shown;
  }

  /** Why it is not held, or does not work. */
  public String why(Obstacle obstacle, Trace trace) {
    return obstacle.match(new Why(trace));
  }

  private final class Why implements Obstacle.Cases<String> {
    private final Trace trace;

    Why(Trace trace) {
      this.trace = trace;
    }

    @Override
    public String nothingGivesIt(NothingGivesIt obstacle) {
      return "no grant, ownership or power gives "
          + shown.principal(trace.user())
          + " "
          + trace.privilege().text()
          + " on "
          + shown.node(trace.node())
          + (trace.column() < 0 ? "" : " for that column");
    }

    @Override
    public String onlyColumns(OnlyColumns obstacle) {
      return "held on some columns only: " + shown.columns(trace.node(), obstacle.columns());
    }

    @Override
    public String missingGate(MissingGate obstacle) {
      return shown.principal(obstacle.who())
          + " has no "
          + Privilege.lowest(obstacle.privilege()).text()
          + " on "
          + shown.node(obstacle.container())
          + (access.tree().is(obstacle.container(), NodeFact.SEALED)
              ? ", which is sealed, so nothing in it can be used"
              : obstacle.atLogin() ? ", so cannot log in there" : ", so nothing in it can be used");
    }

    @Override
    public String closedDatabase(ClosedDatabase obstacle) {
      return shown.node(obstacle.database()) + " accepts no connections from anybody";
    }

    @Override
    public String underView(UnderView obstacle) {
      boolean routine = access.tree().kind(trace.node()) == NodeKind.ROUTINE;
      boolean calls = access.tree().kind(obstacle.under()) == NodeKind.ROUTINE;
      return (routine ? "the routine " : "the view ")
          + (calls ? "calls " : "reads ")
          + shown.node(obstacle.under())
          + ", which "
          + shown.principal(obstacle.who())
          + " may not";
    }

    @Override
    public String ownerGone(OwnerGone obstacle) {
      return shown.node(obstacle.view())
          + " reads as an account that is no longer there: nobody can read it";
    }

    @Override
    public String withheld(Withheld obstacle) {
      return shown.principal(obstacle.owner())
          + " owns it but has taken this right from itself; as owner it may grant it again";
    }

    @Override
    public String guarded(Guarded obstacle) {
      return "the server lets only superusers do this to its own catalog";
    }

    @Override
    public String denied(Denied obstacle) {
      StringJoiner all = new StringJoiner("; ");
      obstacle.rows().forEach(row -> all.add(denial(row)));
      return "denied, which beats every grant: " + all;
    }

    private String denial(int row) {
      Grants denials = access.denials();
      int on = denials.node(row);
      boolean whole = denials.columns(row) == ColumnSets.WHOLE;
      BitSet columns = new BitSet();
      for (int ordinal : whole ? new int[0] : access.columnSets().ordinals(denials.columns(row))) {
        columns.set(ordinal);
      }
      return trace.privilege().text()
          + (whole ? "" : " (" + shown.columns(on, columns) + ")")
          + " on "
          + shown.node(on)
          + ", to "
          + shown.principal(denials.grantee(row))
          + label(denials.terms(row));
    }

    private String label(Terms terms) {
      String label = access.labelOf(terms);
      return label.isEmpty() ? "" : ", by the label " + shown.label(terms);
    }

    @Override
    public String ended(Ended obstacle) {
      return "the membership or grant it came through has ended";
    }

    @Override
    public String disabled(Disabled obstacle) {
      return "the account is disabled: it cannot log in";
    }

    @Override
    public String over(Over obstacle) {
      return NoLogin.over(access, obstacle.since());
    }
  }

  /** Whether it gives what was asked for; others open the way to it. */
  public static boolean isSource(Remedy remedy, Trace trace) {
    return remedy instanceof Remedy.Join
        || remedy instanceof Remedy.Grant grant
            && grant.node() == trace.node()
            && grant.privilege() == trace.privilege().bit();
  }

  /**
   * In words.
   *
   * @param user who asked for it, where it gives that; else -1
   */
  public String remedy(Remedy remedy, int user) {
    if (remedy instanceof Remedy.Join join) {
      return "membership in "
          + shown.principal(join.role())
          + ", which has it ("
          + join.holdings()
          + (join.holdings() == 1 ? " privilege" : " privileges")
          + " in all)";
    }
    Remedy.Grant grant = (Remedy.Grant) remedy;
    String column =
        grant.column() < 0 ? "" : " (" + shown.column(grant.node(), grant.column()) + ")";
    return PrivilegeSet.text(grant.privilege())
        + column
        + " on "
        + shown.node(grant.node())
        + " to "
        + shown.principal(grant.grantee())
        + ((access.notByPower(grant.node()) & grant.privilege()) == 0
            ? ""
            : ", by somebody who is let in there and may give it")
        + (user < 0
            ? ""
            : grant.grantee() == user
                ? access.principals().isUser(user) ? " alone, a direct grant" : ""
                : ", which " + shown.principal(user) + " has already");
  }
}
