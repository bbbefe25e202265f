package fiador.predicates;

import fiador.estate.DottedName;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Attribute;
import fiador.predicates.Expression.Coalesce;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Extract;
import fiador.predicates.Expression.Holds;
import fiador.predicates.Expression.In;
import fiador.predicates.Expression.IsNull;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Length;
import fiador.predicates.Expression.Like;
import fiador.predicates.Expression.Literal;
import fiador.predicates.Expression.Lookup;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Operate;
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.Session;
import fiador.predicates.Expression.Substring;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/** Writes predicates so that {@link PredicateReader} reads the same again. */
public final class PredicateText {
  private PredicateText() {}

  /** The text of a predicate. */
  public static String of(Expression expression) {
    if (expression instanceof Or or) {
      return joined(or.parts(), " or ");
    } else if (expression instanceof And and) {
      return joined(and.parts(), " and ");
    } else if (expression instanceof Not not) {
      return negated(not.of());
    } else if (expression instanceof Compare compare) {
      return inner(compare.left()) + " " + compare.how().sign() + " " + inner(compare.right());
    } else if (expression instanceof In in) {
      return in(in, " in ");
    } else if (expression instanceof Like like) {
      return inner(like.text()) + " like " + quoted(like.pattern());
    } else if (expression instanceof IsNull is) {
      return inner(is.value()) + " is null";
    } else if (expression instanceof IsTrue is) {
      return inner(is.value()) + " is true";
    } else if (expression instanceof Operate operate) {
      return inner(operate.left()) + " " + operate.how().sign() + " " + inner(operate.right());
    }
    return simple(expression);
  }

  private static String negated(Expression of) {
    if (of instanceof In in) {
      return in(in, " not in ");
    } else if (of instanceof Like like) {
      return inner(like.text()) + " not like " + quoted(like.pattern());
    } else if (of instanceof IsNull is) {
      return inner(is.value()) + " is not null";
    } else if (of instanceof IsTrue is) {
      return inner(is.value()) + " is not true";
    }
    return "not " + inner(of);
  }

  private static String in(In in, String how) {
    List<Expression> options = in.options();
    boolean one = options.size() == 1;
    boolean bare = one && (options.get(0) instanceof Attribute || options.get(0) instanceof Lookup);
    String list = options.stream().map(PredicateText::inner).collect(Collectors.joining(", "));
    return inner(in.item()) + how + (bare ? list : "(" + list + ")");
  }

  private static String joined(List<Expression> parts, String by) {
    return parts.stream()
        .map(part -> part instanceof And && by.equals(" or ") ? of(part) : logical(part))
        .collect(Collectors.joining(by));
  }

  private static String logical(Expression part) {
    return part instanceof Or || part instanceof And ? "(" + of(part) + ")" : of(part);
  }

  private static String inner(Expression expression) {
    return isSimple(expression) ? simple(expression) : "(" + of(expression) + ")";
  }

  private static boolean isSimple(Expression expression) {
    return !(expression instanceof Or
        || expression instanceof And
        || expression instanceof Not
        || expression instanceof Compare
        || expression instanceof In
        || expression instanceof Like
        || expression instanceof IsNull
        || expression instanceof IsTrue
        || expression instanceof Operate);
  }

  private static String simple(Expression expression) {
    if (expression instanceof Literal literal) {
      return literal(literal);
    } else if (expression instanceof Column column) {
      return column.ordinal() < 0 ? column.name() : DottedName.quoted(column.name());
    } else if (expression instanceof Attribute attribute) {
      return "user." + DottedName.quoted(attribute.name());
    } else if (expression instanceof Session session) {
      return "session." + session.fact().text();
    } else if (expression instanceof Holds holds) {
      return "holds(" + DottedName.quoted(holds.role()) + ")";
    } else if (expression instanceof Lookup lookup) {
      return "lookup(" + DottedName.quoted(lookup.name()) + ")";
    } else if (expression instanceof Length length) {
      return "char_length(" + of(length.text()) + ")";
    } else if (expression instanceof Substring part) {
      return "substring("
          + of(part.text())
          + " from "
          + part.from()
          + " for "
          + part.length()
          + ")";
    } else if (expression instanceof Coalesce coalesce) {
      return coalesce.values().stream()
          .map(PredicateText::of)
          .collect(Collectors.joining(", ", "coalesce(", ")"));
    } else if (expression instanceof Extract extract) {
      String field = extract.field().name().toLowerCase(Locale.ROOT);
      return "extract(" + field + " from " + of(extract.date()) + ")";
    }
    return "user.name";
  }

  private static String literal(Literal literal) {
    if (literal.value() == null) {
      return "unknown";
    }
    String text = Values.text(literal.value());
    return switch (literal.type()) {
      case TEXT, PADDED -> quoted(text);
      case DATE, TIMESTAMP -> literal.type().text() + " " + quoted(text);
      default -> text;
    };
  }

  private static String quoted(String text) {
    return "'" + text.replace("'", "''") + "'";
  }
}
