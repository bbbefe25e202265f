package fiador.files.charter;

import fiador.estate.ColumnType;
import fiador.estate.Nearest;
import fiador.files.charter.SightSections.AppliesTo;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import fiador.predicates.Expression;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Attribute;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Comparison;
import fiador.predicates.Expression.Holds;
import fiador.predicates.Expression.Lookup;
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.UserName;
import fiador.predicates.PredicateException;
import fiador.predicates.PredicateReader;
import fiador.predicates.PredicateReader.Read;
import fiador.predicates.Rewriting;
import fiador.predicates.Simplifier;
import fiador.predicates.Typing;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Reads the predicates of policies, and to whom those apply; checks the names in them. */
final class PolicyPredicates {
  private final Draft draft;
  private final Mistakes mistakes;

  PolicyPredicates(Draft draft, Mistakes mistakes) {
    this.draft = draft;
    this.mistakes = mistakes;
  }

  /** Checks names, and that a predicate does not come to the same for every row. */
  void check(Scalar written, Read read, String ifTrue, String ifFalse) {
    checkNames(written, read);
    Expression simple = new Simplifier(null).simplified(read.expression());
    if (simple.equals(Expression.TRUE) || simple.equals(Expression.FALSE)) {
      String what = simple.equals(Expression.TRUE) ? ifTrue : ifFalse;
      mistakes.add(written.place(), what + ", for everybody it applies to");
    }
  }

  /** The condition under which a policy applies; null when it has mistakes. */
  @Nullable Expression applies(AppliesTo to) {
    List<Expression> parts = new ArrayList<>();
    List<Expression> any = all(to.anyOf());
    List<Expression> all = all(to.allOf());
    if (any == null || all == null) {
      return null;
    }
    if (!any.isEmpty()) {
      parts.add(any.size() == 1 ? any.get(0) : new Or(any));
    }
    parts.addAll(all);
    return parts.isEmpty()
        ? Expression.TRUE
        : parts.size() == 1 ? parts.get(0) : new And(List.copyOf(parts));
  }

  /** Whether somebody is one of those named; null when there are mistakes. */
  @Nullable Expression anyOf(List<Scalar> named) {
    List<Expression> any = all(named);
    if (any == null || any.isEmpty()) {
      return any == null ? null : Expression.FALSE;
    }
    return any.size() == 1 ? any.get(0) : new Or(any);
  }

  private List<Expression> all(List<Scalar> written) {
    List<Expression> found = new ArrayList<>();
    boolean wrong = false;
    for (Scalar one : written) {
      Expression meant = who(one);
      wrong |= meant == null;
      found.add(meant);
    }
    return wrong ? null : found;
  }

  private Expression who(Scalar written) {
    String text = written.text().strip();
    if (text.startsWith("role ")) {
      String role = text.substring("role ".length()).strip();
      checkRole(written, role);
      return new Holds(role);
    } else if (text.startsWith("user ") && !text.startsWith("user .")) {
      String user = text.substring("user ".length()).strip();
      if (!draft.users.containsKey(user)) {
        mistakes.add(
            written.place(),
            "there is no user \""
                + user
                + "\" in the charter"
                + Nearest.hint(user, draft.users.keySet().stream()));
      }
      return new Compare(Comparison.EQUAL, new UserName(), Expression.text(user));
    }
    Read read = read(written);
    if (read == null) {
      return null;
    }
    checkNames(written, read);
    Function<String, Column> noColumns =
        name -> {
          throw new IllegalArgumentException(
              "found " + name + ", expected role NAME, user NAME or a condition on user.ATTRIBUTE");
        };
    try {
      return Typing.typed(
          read,
          new Typing.Names() {
            @Override
            public Column column(String name) {
              return noColumns.apply(name);
            }

            @Override
            public ColumnType lookup(String name) {
              return null;
            }
          });
    } catch (PredicateException wrong) {
      mistakes.add(written.at(wrong.at()), wrong.getMessage());
      return null;
    }
  }

  @Nullable Read read(Scalar text) {
    try {
      return withRolesAsKeys(PredicateReader.read(text.text()));
    } catch (PredicateException wrong) {
      mistakes.add(text.at(wrong.at()), wrong.getMessage());
      return null;
    }
  }

  /** A role whose name the charter has in quotes is called without them in a predicate. */
  private Read withRolesAsKeys(Read read) {
    boolean[] any = new boolean[1];
    Expression keyed =
        Rewriting.of(
            read.expression(),
            part -> {
              if (part instanceof Holds holds && !draft.roles.containsKey(holds.role())) {
                String key = '"' + holds.role().replace("\"", "\"\"") + '"';
                any[0] |= draft.roles.containsKey(key);
                return draft.roles.containsKey(key) ? new Holds(key) : part;
              }
              return part;
            });
    return any[0] ? new Read(keyed, read.places()) : read;
  }

  private void checkRole(Scalar written, String role) {
    if (!draft.roles.containsKey(role)) {
      mistakes.add(
          written.place(),
          "there is no role \""
              + role
              + "\" in the charter"
              + Nearest.hint(role, draft.roles.keySet().stream()));
    }
  }

  /** The roles, lookups and attributes a predicate names. */
  private void checkNames(Scalar written, Read read) {
    Set<String> attributes = new HashSet<>();
    draft.attributes.values().forEach(values -> attributes.addAll(values.keySet()));
    Rewriting.of(
        read.expression(),
        part -> {
          if (part instanceof Holds holds) {
            checkRole(written, holds.role());
          } else if (part instanceof Lookup lookup && !draft.lookups.containsKey(lookup.name())) {
            mistakes.add(
                written.place(),
                "there is no lookup "
                    + lookup.name()
                    + Nearest.hint(lookup.name(), draft.lookups.keySet().stream()));
          } else if (part instanceof Attribute attribute
              && !attributes.contains(attribute.name())) {
            mistakes.add(
                written.place(),
                "no user of the charter has the attribute "
                    + attribute.name()
                    + Nearest.hint(attribute.name(), attributes.stream()));
          }
          return part;
        });
  }
}
