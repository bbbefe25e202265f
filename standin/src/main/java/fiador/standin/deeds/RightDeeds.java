package fiador.standin.deeds;

import fiador.standin.estate.Later;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Right;
import fiador.standin.estate.Thing;
import fiador.standin.house.House.Fact;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Statements that give, take and refuse. */
final class RightDeeds {
  static final String ALL = "all";
  private static final String BY_LABEL = "give or refuse by label";

  private RightDeeds() {}

  /**
   * A privilege as it was written.
   *
   * @param word which; {@link #ALL} for all that exist
   * @param columns on which columns; none for the whole
   */
  record Written(String word, List<String> columns) {}

  /** Who is named, null for everybody. */
  private static Principal grantee(Doing doing, @Nullable String name, boolean giving)
      throws MistakeException {
    Principal who = name == null ? doing.warehouse().everybody() : doing.principal(name);
    if (giving && doing.house().has(Fact.ROLES_ONLY) && who.isUser()) {
      throw new MistakeException("privileges are given to roles here, and " + name + " is a user");
    }
    return who;
  }

  private static List<Right> rows(
      Doing doing, List<Written> privileges, Thing on, Principal who, boolean refused)
      throws MistakeException {
    List<Right> rows = new ArrayList<>();
    for (Written written : privileges) {
      boolean whole = written.columns().isEmpty();
      Set<String> exist = new TreeSet<>(doing.house().on(on.kind()));
      if (!whole) {
        exist.retainAll(isLabel(on) ? Set.of() : doing.house().onColumns());
      }
      boolean all = written.word().equals(ALL);
      if (!all && !exist.contains(written.word())) {
        String where = whole ? " on a " + on.kind() : " on columns";
        throw new MistakeException(
            "there is no " + written.word() + where + "; there are " + exist);
      }
      for (String privilege : all ? exist : Set.of(written.word())) {
        if (whole) {
          rows.add(new Right(refused, who, privilege, on, null));
        }
        for (String column : written.columns()) {
          String named = on.column(column);
          if (named == null) {
            throw new MistakeException("there is no column " + column + " in " + on);
          }
          rows.add(new Right(refused, who, privilege, on, named));
        }
      }
    }
    return rows;
  }

  static void give(
      Doing doing, List<Written> privileges, Thing on, @Nullable String to, boolean option)
      throws RefusedException, MistakeException {
    if (option && !doing.house().has(Fact.GRANT_OPTIONS)) {
      throw new MistakeException("nothing is given on here");
    }
    if (option && to == null && !doing.house().has(Fact.OPTION_FOR_EVERYBODY)) {
      throw new MistakeException("not everybody can be given the right to give on");
    }
    if (option && isLabel(on)) {
      throw new MistakeException("what is given by a label is not given on");
    }
    List<Right> rows = rows(doing, privileges, on, grantee(doing, to, true), false);
    needToGive(doing, rows);
    rows.forEach(row -> doing.warehouse().give(row, option, doing.session().acting()));
  }

  static void take(
      Doing doing, List<Written> privileges, Thing on, @Nullable String from, boolean optionOnly)
      throws RefusedException, MistakeException {
    Principal who = grantee(doing, from, false);
    List<Right> rows = rows(doing, privileges, on, who, false);
    needToGive(doing, rows);
    for (Right row : rows) {
      boolean columnsToo = row.column() == null && !doing.house().has(Fact.COLUMNS_APART);
      doing.warehouse().take(row, optionOnly);
      for (String column : columnsToo ? on.columns().keySet() : Set.<String>of()) {
        doing.warehouse().take(new Right(false, who, row.privilege(), on, column), optionOnly);
      }
    }
  }

  private static boolean isLabel(Thing on) {
    return on.kind().equals(Thing.LABEL);
  }

  private static void needToGive(Doing doing, List<Right> rows) throws RefusedException {
    if (rows.stream().anyMatch(row -> isLabel(row.on()))) {
      doing.needAdministrator(BY_LABEL);
      return;
    }
    for (Right row : doing.again() ? List.<Right>of() : rows) {
      String missing =
          doing.judge().missingToGive(doing.session(), row.privilege(), row.on(), row.column());
      if (missing != null) {
        throw new RefusedException(missing, row.privilege(), row.on());
      }
    }
  }

  static void refuse(
      Doing doing, List<Written> privileges, Thing on, @Nullable String to, boolean lifted)
      throws RefusedException, MistakeException {
    if (!doing.house().has(Fact.DENIALS)) {
      throw new MistakeException("nothing is refused here; what nobody gave nobody has");
    }
    if (isLabel(on)) {
      doing.needAdministrator(BY_LABEL);
    } else {
      doing.needDisposal(on);
    }
    List<Right> rows = rows(doing, privileges, on, grantee(doing, to, false), true);
    for (Right row : rows) {
      if (lifted) {
        doing.warehouse().take(row, false);
      } else {
        doing.warehouse().give(row, false, doing.session().acting());
      }
    }
  }

  static void later(
      Doing doing, List<Written> privileges, LaterOn on, @Nullable String to, boolean option)
      throws RefusedException, MistakeException {
    for (Later row : laterRows(doing, privileges, on, grantee(doing, to, true))) {
      doing.warehouse().later().merge(row, option, Boolean::logicalOr);
    }
  }

  static void noLonger(Doing doing, List<Written> privileges, LaterOn on, @Nullable String from)
      throws RefusedException, MistakeException {
    laterRows(doing, privileges, on, grantee(doing, from, false))
        .forEach(row -> doing.warehouse().later().remove(row));
  }

  /**
   * On what is still to be made.
   *
   * @param kinds what kind, in the plural
   * @param in where
   */
  record LaterOn(String kinds, Thing in) {}

  private static List<Later> laterRows(
      Doing doing, List<Written> privileges, LaterOn on, Principal who)
      throws RefusedException, MistakeException {
    if (!doing.house().has(Fact.LATER_GRANTS)) {
      throw new MistakeException("nothing is given here on what is not there yet");
    }
    String kind = on.kinds().replaceFirst("s$", "");
    if (doing.house().on(kind).isEmpty() || !on.kinds().endsWith("s")) {
      throw new MistakeException("there are no " + on.kinds() + " here: tables, views or schemas");
    }
    doing.needDisposal(on.in());
    List<Later> rows = new ArrayList<>();
    for (Written written : privileges) {
      boolean all = written.word().equals(ALL);
      Set<String> exist = doing.house().on(kind);
      if (!written.columns().isEmpty() || !all && !exist.contains(written.word())) {
        throw new MistakeException(
            "there is no " + written.word() + " on a " + kind + " as a whole");
      }
      for (String privilege : all ? exist : Set.of(written.word())) {
        rows.add(new Later(who, privilege, kind, on.in()));
      }
    }
    return rows;
  }
}
