package fiador.changes.planning;

import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.WantedSight;
import fiador.estate.ColumnType;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.policies.SafeColumn;
import fiador.predicates.Digits;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Column;
import fiador.predicates.PredicateException;
import fiador.predicates.PredicateReader.Read;
import fiador.predicates.PredicateText;
import fiador.predicates.SessionFact;
import fiador.predicates.Typing;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;

/** Looks up and types the predicates of policies, and refuses what the server cannot reckon. */
final class PredicateDemands {
  private final Access access;
  private final Tree tree;
  private final IntFunction<String> path;
  private final List<Problem> problems;
  private final Set<String> notes;
  private final Map<String, ColumnType> lookups = new HashMap<>();

  /**
   * @param path what people call a table
   * @param problems where those are told
   * @param notes where it is told what to know of what was asked
   */
  PredicateDemands(
      Access access,
      List<WantedSight.Lookup> lookups,
      IntFunction<String> path,
      List<Problem> problems,
      Set<String> notes) {
    this.access = access;
    this.tree = access.tree();
    this.path = path;
    this.problems = problems;
    this.notes = notes;
    Lookup lookup = new Lookup(access);
    for (WantedSight.Lookup one : lookups) {
      Lookup.Found value = lookup.node(one.table() + "." + one.value(), 0, true);
      if (value.ok() && value.column() >= 0) {
        this.lookups.put(one.name(), tree.columnType(value.id(), value.column()));
      }
    }
  }

  /**
   * A predicate on the rows of one table; null where it has mistakes.
   *
   * @param at where it stands
   * @param uses columns by the names they have in it
   * @param applies for whom it counts, which is reckoned beside it
   */
  @Nullable Expression on(
      int table, Read predicate, Place at, Map<String, String> uses, Expression applies) {
    Typing.Names names =
        SafeColumn.names(SafeColumn.all(tree, table), lookups, access.rules()::fold);
    try {
      Expression typed = Typing.typed(predicate, renamed(names, uses));
      check(typed);
      check(applies);
      return typed;
    } catch (PredicateException wrong) {
      problems.add(
          new Problem(
              new Place(at.file(), at.line(), at.column() + wrong.at()),
              path.apply(table) + ": " + wrong.getMessage()));
      return null;
    }
  }

  /** Whether the server can reckon for whom a policy counts; else there is a problem. */
  boolean fits(Expression applies, Place at) {
    try {
      check(applies);
      return true;
    } catch (PredicateException wrong) {
      problems.add(new Problem(at, wrong.getMessage()));
      return false;
    }
  }

  private void check(Expression typed) throws PredicateException {
    HouseRules rules = access.rules();
    if (Typing.ordersTexts(typed) && !rules.has(HouseFact.ORDERS_TEXTS)) {
      throw new PredicateException(
          rules.kind() + " has no exact order of texts; =, <>, in and like work there", 0);
    }
    if (rules.lacksDates(PredicateText.of(typed))) {
      throw new PredicateException(
          rules.kind() + " has no days from 1582-10-05 to 1582-10-14, where its calendar changes",
          0);
    }
    for (SessionFact fact : Expression.sessionFacts(typed)) {
      boolean application = fact == SessionFact.APPLICATION;
      HouseFact needed = application ? HouseFact.TELLS_APPLICATION : HouseFact.TELLS_ADDRESS;
      if (!rules.has(needed)) {
        throw new PredicateException(
            rules.kind() + " tells policies nothing of a session's " + fact.text(), 0);
      } else if (application) {
        notes.add(
            "anybody can give their session any application's name: session.application keeps out"
                + " nobody who means to come in");
      }
    }
    int digits = Digits.ofArithmetic(typed);
    if (digits > rules.numbers().mostDigits()) {
      throw new PredicateException(
          rules.kind()
              + " reckons with "
              + rules.numbers().mostDigits()
              + " digits at most, and this may come to "
              + digits
              + ": multiply fewer numbers",
          0);
    }
  }

  private static Typing.Names renamed(Typing.Names names, Map<String, String> uses) {
    return new Typing.Names() {
      @Override
      public Column column(String name) {
        return names.column(uses.getOrDefault(name, name));
      }

      @Override
      public ColumnType lookup(String name) {
        return names.lookup(name);
      }
    };
  }
}
