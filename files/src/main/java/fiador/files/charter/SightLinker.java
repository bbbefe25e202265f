package fiador.files.charter;

import fiador.changes.wanted.MaskChoice;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.Wanted.Target;
import fiador.changes.wanted.WantedSight;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.ColumnType;
import fiador.estate.Nearest;
import fiador.estate.NodeKind;
import fiador.files.charter.SightSections.AppliesTo;
import fiador.files.charter.SightSections.LookupEntry;
import fiador.files.charter.SightSections.MaskEntry;
import fiador.files.charter.SightSections.RowsEntry;
import fiador.files.charter.Yaml.Scalar;
import fiador.grants.LookupKey;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Attribute;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Comparison;
import fiador.predicates.Expression.Holds;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Lookup;
import fiador.predicates.Expression.Not;
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
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;

/** Makes row and mask policies of what the sections about them say, and checks all names. */
final class SightLinker {
  private static final String LABELLED = "columns labelled ";
  private static final String EVERY = "every table in ";

  private final Draft draft;
  private final Mistakes mistakes;

  SightLinker(Draft draft, Mistakes mistakes) {
    this.draft = draft;
    this.mistakes = mistakes;
  }

  WantedSight link() {
    List<WantedSight.Rows> rows = new ArrayList<>();
    for (RowsEntry entry : draft.rowPolicies.values()) {
      WantedSight.Rows made = entry.rows() == null ? null : rows(entry);
      if (made != null && entry.enabled()) {
        rows.add(made);
      }
    }
    List<WantedSight.Masks> masks = new ArrayList<>();
    for (MaskEntry entry : draft.maskPolicies.values()) {
      WantedSight.Masks made = masks(entry);
      if (entry.enabled()) {
        masks.add(made);
      }
    }
    Map<String, Map<String, List<String>>> attributes = new LinkedHashMap<>();
    draft.attributes.forEach(
        (user, values) -> {
          Map<String, List<String>> plain = new LinkedHashMap<>();
          values.forEach(
              (name, all) -> plain.put(name, all.stream().map(Scalar::text).distinct().toList()));
          attributes.put(user, plain);
        });
    List<WantedSight.Lookup> lookups = new ArrayList<>();
    for (LookupEntry entry : draft.lookups.values()) {
      if (entry.table() != null && entry.key() != null && entry.value() != null) {
        lookups.add(
            new WantedSight.Lookup(
                entry.name().text(),
                entry.table().text(),
                entry.key().text(),
                entry.keys() == null ? LookupKey.USER : new LookupKey(entry.keys().text()),
                entry.value().text(),
                entry.name().place()));
      }
    }
    return new WantedSight(rows, masks, attributes, lookups, labels(), seals(), draft.decidesSight);
  }

  private List<WantedSight.Seal> seals() {
    List<WantedSight.Seal> found = new ArrayList<>();
    for (SightSections.SealEntry entry : draft.seals.values()) {
      List<Labelled> on = new ArrayList<>();
      for (Scalar thing : entry.on()) {
        on.add(new Labelled(withoutKind(thing.text()), thing.place()));
      }
      List<String> openTo = new ArrayList<>();
      for (Scalar who : entry.openTo()) {
        String name = who.text().replaceFirst("^(role|user) +", "");
        boolean known = draft.roles.containsKey(name) || draft.users.containsKey(name);
        if (!known) {
          List<String> names = new ArrayList<>(draft.roles.keySet());
          names.addAll(draft.users.keySet());
          mistakes.add(
              who.place(),
              "there is no role or user \""
                  + name
                  + "\" in the charter"
                  + Nearest.hint(name, names.stream()));
        }
        openTo.add(name);
      }
      found.add(new WantedSight.Seal(entry.name().text(), on, openTo, entry.name().place()));
    }
    return found;
  }

  /** "schema laboratory" and "laboratory" are the same. */
  static String withoutKind(String thing) {
    int blank = thing.indexOf(' ');
    boolean kind = blank > 0 && NodeKind.named(thing.substring(0, blank)) != null;
    return kind ? thing.substring(blank + 1).strip() : thing;
  }

  private Map<String, List<Labelled>> labels() {
    Map<String, List<Labelled>> found = new LinkedHashMap<>();
    draft.labels.forEach(
        (label, things) ->
            found
                .computeIfAbsent(label.text(), none -> new ArrayList<>())
                .addAll(things.stream().map(t -> new Labelled(t.text(), t.place())).toList()));
    return found;
  }

  private WantedSight.Rows rows(RowsEntry entry) {
    Expression applies = applies(entry.appliesTo());
    Expression exempts = anyOf(entry.appliesTo().noneOf());
    Read read = read(entry.rows());
    if (read == null || applies == null || exempts == null) {
      return null;
    }
    checkNames(entry.rows(), read);
    Expression simple = new Simplifier(null).simplified(read.expression());
    if (simple.equals(Expression.TRUE) || simple.equals(Expression.FALSE)) {
      mistakes.add(
          entry.rows().place(),
          "this shows "
              + (simple.equals(Expression.TRUE) ? "every row" : "no row")
              + " to everybody it applies to");
    }
    List<Target> on = new ArrayList<>();
    for (Scalar table : entry.on()) {
      on.add(
          table.text().startsWith(EVERY)
              ? new Every(Set.of(NodeKind.TABLE), table.text().substring(EVERY.length()))
              : new Single(NodeKind.TABLE, table.text()));
    }
    return new WantedSight.Rows(
        entry.name().text(),
        on,
        entry.uses(),
        applies,
        exempts,
        read,
        entry.rows().at(0),
        entry.any(),
        entry.view(),
        entry.name().place());
  }

  private WantedSight.Masks masks(MaskEntry entry) {
    List<Labelled> columns = new ArrayList<>();
    List<String> labels = new ArrayList<>();
    for (Scalar on : entry.on()) {
      if (!on.text().startsWith(LABELLED)) {
        columns.add(new Labelled(on.text(), on.place()));
        continue;
      }
      String label = on.text().substring(LABELLED.length()).strip();
      labels.add(label);
      List<String> known = draft.labels.keySet().stream().map(Scalar::text).toList();
      if (!known.contains(label)) {
        mistakes.add(
            on.at(LABELLED.length()),
            "there is no label " + label + Nearest.hint(label, known.stream()));
      }
    }
    Map<String, Mask> byKind = new LinkedHashMap<>();
    entry
        .masks()
        .forEach(
            (kind, text) -> {
              if (!MaskChoice.KINDS.contains(kind.text())) {
                mistakes.add(
                    kind.place(),
                    "there is no kind of column \""
                        + kind.text()
                        + "\"; there are "
                        + String.join(", ", MaskChoice.KINDS));
              }
              try {
                byKind.put(kind.text(), Mask.of(text.text()));
              } catch (IllegalArgumentException wrong) {
                mistakes.add(text.place(), wrong.getMessage());
              }
            });
    Expression applies = applies(entry.appliesTo());
    Expression clear = anyOf(entry.appliesTo().noneOf());
    Expression masked = Expression.TRUE;
    if (applies != null && clear != null) {
      boolean none = clear.equals(Expression.FALSE);
      Expression not = new Not(new IsTrue(clear));
      masked =
          none ? applies : applies.equals(Expression.TRUE) ? not : new And(List.of(applies, not));
    }
    return new WantedSight.Masks(
        entry.name().text(),
        columns,
        labels,
        entry.in().stream().map(Scalar::text).toList(),
        masked,
        byKind,
        entry.rank(),
        entry.view(),
        entry.name().place());
  }

  /** The condition under which a policy applies; null when it has mistakes. */
  private Expression applies(AppliesTo to) {
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
  private Expression anyOf(List<Scalar> named) {
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

  private Read read(Scalar text) {
    try {
      return PredicateReader.read(text.text());
    } catch (PredicateException wrong) {
      mistakes.add(text.at(wrong.at()), wrong.getMessage());
      return null;
    }
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

  /** Whether a wanted sentence is about a label that is known. */
  void checkLabels(List<Wanted.Grant> grants) {
    List<String> known = draft.labels.keySet().stream().map(Scalar::text).toList();
    for (Wanted.Grant grant : grants) {
      if (grant.target() instanceof Every every
          && every.label() != null
          && !known.contains(every.label())) {
        mistakes.add(
            grant.place(),
            "there is no label " + every.label() + Nearest.hint(every.label(), known.stream()));
      }
    }
  }
}
