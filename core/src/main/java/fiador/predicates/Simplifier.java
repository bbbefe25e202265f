package fiador.predicates;

import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Attribute;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Holds;
import fiador.predicates.Expression.In;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Literal;
import fiador.predicates.Expression.Lookup;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.Session;
import fiador.predicates.Expression.UserName;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * Puts what is known of a user into a predicate and leaves out what decides nothing, so that it
 * reads {@code district in ('north', 'delta')}. The result shows the same rows.
 */
public final class Simplifier {
  private final Subject user;
  private final Evaluation known;

  /**
   * For that user.
   *
   * @param user null when nothing is known of whoever asks
   */
  public Simplifier(Subject user) {
    this.user = user;
    this.known = user == null ? null : new Evaluation(user);
  }

  /**
   * What a condition without columns comes to: true or false where that is known, and else what is
   * left to be asked about the session.
   */
  public Expression known(Expression condition) {
    boolean[] open = new boolean[1];
    Rewriting.of(
        condition,
        part -> {
          open[0] |= part instanceof Session session && user.session(session.fact()) == null;
          return part;
        });
    return open[0]
        ? simplified(new IsTrue(condition))
        : Expression.truth(known.shows(condition, null));
  }

  /** The predicate, simpler. */
  public Expression simplified(Expression expression) {
    if (expression instanceof And and) {
      return every(and.parts(), false);
    } else if (expression instanceof Or or) {
      return every(or.parts(), true);
    } else if (expression instanceof Not not) {
      return not(simplified(not.of()));
    } else if (expression instanceof IsTrue is) {
      Expression inner = simplified(is.value());
      return inner instanceof Literal literal
          ? Expression.truth(Boolean.TRUE.equals(literal.value()))
          : isTwoValued(inner) ? inner : new IsTrue(inner);
    } else if (expression instanceof In in) {
      return in(in);
    } else if (expression instanceof Compare compare) {
      Expression left = constant(compare.left());
      Expression right = constant(compare.right());
      boolean unknown =
          left instanceof Literal l && l.value() == null
              || right instanceof Literal r && r.value() == null;
      boolean both = left instanceof Literal && right instanceof Literal;
      Compare simpler = new Compare(compare.how(), left, right);
      return unknown
          ? Expression.UNKNOWN
          : both ? Expression.truth((Boolean) new Evaluation(user).value(simpler, null)) : simpler;
    } else if (expression instanceof Holds holds && user != null) {
      return Expression.truth(user.holds(holds.role()));
    }
    return expression;
  }

  private static boolean isTwoValued(Expression expression) {
    return expression instanceof Expression.IsNull
        || expression instanceof IsTrue
        || expression instanceof Holds;
  }

  private static Expression not(Expression of) {
    if (of instanceof Literal literal) {
      return Expression.truth(
          literal.value() == null ? null : (Boolean) !(Boolean) literal.value());
    }
    return of instanceof Not twice ? twice.of() : new Not(of);
  }

  private Expression every(List<Expression> parts, boolean decides) {
    Set<Expression> left = new LinkedHashSet<>();
    for (Expression part : parts) {
      Expression simpler = simplified(part);
      boolean same = decides ? simpler instanceof Or : simpler instanceof And;
      if (simpler instanceof Literal literal && literal.value() != null) {
        if ((Boolean) literal.value() == decides) {
          return simpler;
        }
      } else if (same) {
        left.addAll(simpler instanceof Or or ? or.parts() : ((And) simpler).parts());
      } else {
        left.add(simpler);
      }
    }
    if (left.isEmpty()) {
      return Expression.truth(!decides);
    }
    List<Expression> rest = List.copyOf(left);
    return rest.size() == 1 ? rest.get(0) : decides ? new Or(rest) : new And(rest);
  }

  private Expression in(In in) {
    Set<Expression> options = new LinkedHashSet<>();
    for (Expression option : in.options()) {
      boolean many = option instanceof Attribute || option instanceof Lookup;
      boolean open =
          option instanceof Lookup lookup && user != null && user.lookup(lookup.name()) == null;
      if (many && user != null && !open) {
        for (Object value : known.list(option)) {
          options.add(new Literal(value, Typing.type(option)));
        }
      } else {
        options.add(constant(option));
      }
    }
    if (options.isEmpty()) {
      return Expression.FALSE;
    }
    Expression item = constant(in.item());
    In simpler = new In(item, List.copyOf(options));
    boolean literal =
        item instanceof Literal && options.stream().allMatch(Literal.class::isInstance);
    return literal
        ? Expression.truth((Boolean) new Evaluation(user).value(simpler, null))
        : simpler;
  }

  private Expression constant(Expression expression) {
    boolean ofUser =
        expression instanceof Attribute
            || expression instanceof UserName
            || expression instanceof Session session
                && user != null
                && user.session(session.fact()) != null;
    if (ofUser && user != null) {
      return new Literal(known.value(expression, null), Typing.type(expression));
    }
    return expression;
  }
}
