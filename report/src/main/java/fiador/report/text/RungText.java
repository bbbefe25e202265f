package fiador.report.text;

import fiador.climb.Climb;
import fiador.estate.PrivilegeSet;
import fiador.proofs.Rung;
import fiador.report.shown.Shown;

/** What somebody does on a ladder, in words. */
final class RungText {
  private RungText() {}

  /** A rung to somebody else, or to administrator. */
  static String words(Climb.Rung rung, Shown names) {
    return switch (rung.means()) {
      case GIVES_ITSELF -> "gives itself " + names.principal(rung.gained()) + ", which it may give";
      case MANAGES_ROLES -> "manages roles, and takes " + names.principal(rung.gained());
      case TAKES_THE_PLACE -> "goes on as " + names.principal(rung.gained()) + ", no secret asked";
      case SETS_SECRETS -> "sets any account's secret, an administrator's too";
      case ACTS_IN_HIS_NAME -> "makes a routine that acts as an administrator, and calls it";
      case WRITES_ACCOUNTS -> "writes the tables in which the server keeps accounts";
      case LEAVES_THE_SERVER -> "reaches the server's own files and programs";
      case IS_SUPERUSER -> "switches to it: a superuser";
    };
  }

  /** A rung on the way to being able to do something. */
  static String words(Rung rung, Shown names) {
    if (rung instanceof Rung.Climbs climbs) {
      return words(climbs.rung(), names);
    } else if (rung instanceof Rung.Gives gives) {
      return "gives " + names.principal(gives.role()) + " to " + names.principal(gives.to());
    } else if (rung instanceof Rung.Moves moves) {
      return "moves "
          + names.node(moves.node())
          + " to "
          + names.node(moves.schema())
          + ", where it may use it";
    }
    Rung.Grants grants = (Rung.Grants) rung;
    return "grants "
        + PrivilegeSet.text(grants.privileges())
        + " on "
        + names.node(grants.node())
        + " to "
        + (grants.to() == grants.by() ? "itself" : names.principal(grants.to()))
        + (grants.owner() ? ", as its owner" : ", which it may grant on");
  }
}
