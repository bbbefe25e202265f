package fiador.files.charter;

import fiador.changes.wanted.MaskChoice;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.Wanted.Target;
import fiador.changes.wanted.WantedSight;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.Nearest;
import fiador.estate.NodeKind;
import fiador.files.charter.SightSections.LookupEntry;
import fiador.files.charter.SightSections.MaskEntry;
import fiador.files.charter.SightSections.RowsEntry;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import fiador.grants.LookupKey;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Not;
import fiador.predicates.PredicateReader.Read;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Makes row and mask policies of what the sections about them say, and checks all names. */
final class SightLinker {
  private static final String LABELLED = "columns labelled ";

  /** With a label, a container, or both. */
  private static final Pattern EVERY =
      Pattern.compile(
          "every table(?= labelled | in )(?: labelled (?<label>.+?))?(?: in (?<container>.+))?");

  private final Draft draft;
  private final Mistakes mistakes;
  private final PolicyPredicates predicates;

  SightLinker(Draft draft, Mistakes mistakes) {
    this.draft = draft;
    this.mistakes = mistakes;
    this.predicates = new PolicyPredicates(draft, mistakes);
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
    Expression applies = predicates.applies(entry.appliesTo());
    Expression exempts = predicates.anyOf(entry.appliesTo().noneOf());
    Read read = predicates.read(entry.rows());
    if (read == null || applies == null || exempts == null) {
      return null;
    }
    predicates.check(entry.rows(), read, "this shows every row", "this shows no row");
    List<Target> on = new ArrayList<>();
    for (Scalar table : entry.on()) {
      Matcher every = EVERY.matcher(table.text());
      if (every.matches()) {
        String label = every.group("label");
        on.add(new Every(Set.of(NodeKind.TABLE), every.group("container"), label));
        checkLabel(label, label == null ? null : table.at(every.start("label")));
      } else {
        on.add(new Single(NodeKind.TABLE, table.text()));
      }
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
        entry.bindsWriting(),
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
      checkLabel(label, on.at(LABELLED.length()));
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
    Expression applies = predicates.applies(entry.appliesTo());
    Expression clear = predicates.anyOf(entry.appliesTo().noneOf());
    Expression masked = Expression.TRUE;
    if (applies != null && clear != null) {
      boolean none = clear.equals(Expression.FALSE);
      Expression not = new Not(new IsTrue(clear));
      masked =
          none ? applies : applies.equals(Expression.TRUE) ? not : new And(List.of(applies, not));
    }
    Read clearWhere = entry.clearWhere() == null ? null : predicates.read(entry.clearWhere());
    if (clearWhere != null) {
      predicates.check(entry.clearWhere(), clearWhere, "this masks nothing", "this clears nothing");
    }
    return new WantedSight.Masks(
        entry.name().text(),
        columns,
        labels,
        entry.in().stream().map(Scalar::text).toList(),
        entry.uses(),
        masked,
        clearWhere,
        clearWhere == null ? null : entry.clearWhere().at(0),
        byKind,
        entry.rank(),
        entry.view(),
        entry.name().place());
  }

  /** Whether a wanted sentence is about a label that is known. */
  void checkLabels(List<Wanted.Grant> grants) {
    for (Wanted.Grant grant : grants) {
      if (grant.target() instanceof Every every) {
        checkLabel(every.label(), grant.place());
      }
    }
  }

  private void checkLabel(@Nullable String label, @Nullable Place place) {
    List<String> known = draft.labels.keySet().stream().map(Scalar::text).toList();
    if (label != null && !known.contains(label)) {
      mistakes.add(place, "there is no label " + label + Nearest.hint(label, known.stream()));
    }
  }
}
