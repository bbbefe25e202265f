package fiador.files.charter;

import fiador.changes.wanted.ViewPlace;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.files.yaml.Yaml.Sequence;
import fiador.grants.LookupKey;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads the sections of a charter about rows and columns: what they say, not what it means. */
final class SightSections extends Shapes {
  private static final List<String> ROW_KEYS =
      List.of("on", "uses", "applies_to", "rows", "may_write", "combine", "place", "enabled");
  private static final List<String> MASK_KEYS =
      List.of(
          "on",
          "in",
          "uses",
          "applies_to",
          "clear_for",
          "clear_where",
          "mask",
          "rank",
          "place",
          "enabled");

  private static final List<String> MAY_WRITE = List.of("same rows", "any rows");
  private static final String BESIDE = "beside";
  private static final String UNDER_NAME = "under the table's name";

  private final Draft draft;

  SightSections(Mistakes mistakes, Draft draft) {
    super(mistakes);
    this.draft = draft;
  }

  /** To whom a policy applies: lists of roles, users and conditions. */
  record AppliesTo(List<Scalar> anyOf, List<Scalar> allOf, List<Scalar> noneOf) {
    static final AppliesTo EVERYBODY = new AppliesTo(List.of(), List.of(), List.of());
  }

  /** A row policy as written. */
  record RowsEntry(
      Scalar name,
      List<Scalar> on,
      Map<String, String> uses,
      AppliesTo appliesTo,
      Scalar rows,
      boolean any,
      boolean bindsWriting,
      ViewPlace view,
      boolean enabled) {}

  /** A mask policy as written. */
  record MaskEntry(
      Scalar name,
      List<Scalar> on,
      List<Scalar> in,
      Map<String, String> uses,
      AppliesTo appliesTo,
      @Nullable Scalar clearWhere,
      Map<Scalar, Scalar> masks,
      int rank,
      ViewPlace view,
      boolean enabled) {}

  /** A lookup table as written. */
  record LookupEntry(Scalar name, Scalar table, Scalar key, Scalar keys, Scalar value) {}

  /** A seal as written. */
  record SealEntry(Scalar name, List<Scalar> on, List<Scalar> openTo) {}

  void read(Entry section) {
    Mapping all = mapping(section.value(), section.key().text() + " by name");
    draft.decidesSight |= section.key().text().endsWith("_policies");
    for (Entry entry : all == null ? List.<Entry>of() : all.entries()) {
      String what = section.key().text();
      if (what.equals("labels")) {
        draft.labels.merge(
            entry.key(),
            scalars(entry.value(), "things that carry the label"),
            (before, more) -> {
              List<Scalar> both = new ArrayList<>(before);
              both.addAll(more);
              return both;
            });
        continue;
      }
      Mapping body = mapping(entry.value(), "the keys of " + entry.key().text());
      if (body != null) {
        switch (what) {
          case "lookups" -> lookup(entry.key(), body);
          case "row_policies" -> rows(entry.key(), body);
          case "mask_policies" -> masks(entry.key(), body);
          default -> seal(entry.key(), body);
        }
      }
    }
  }

  private void twice(Map<String, ?> known, Scalar name, String what) {
    if (known.containsKey(name.text())) {
      mistakes.add(name.place(), what + " " + name.text() + " stands here a second time");
    }
  }

  private void lookup(Scalar name, Mapping body) {
    List<String> known = List.of("table", "key", "keyed_by", "value");
    Map<String, Scalar> values = new LinkedHashMap<>();
    for (Entry entry : body.entries()) {
      if (known.contains(entry.key().text())) {
        values.put(entry.key().text(), scalar(entry.value(), "a name"));
      } else {
        unknown(entry.key(), known, "key of a lookup");
      }
    }
    for (String needed : List.of("table", "key", "value")) {
      if (values.get(needed) == null) {
        mistakes.add(name.place(), "lookup " + name.text() + " has no \"" + needed + "\"");
      }
    }
    Scalar keys = values.get("keyed_by");
    if (keys != null && !LookupKey.isOne(keys.text())) {
      mistakes.add(
          keys.place(),
          "found \""
              + keys.text()
              + "\", expected what stands in the key column: user, role or user.ATTRIBUTE");
    } else if (keys == null && namesRoles(values.get("key"))) {
      mistakes.add(
          name.place(),
          "the keys of lookup "
              + name.text()
              + " look like names of roles: say \"keyed_by: role\", or \"keyed_by: user\" if they are names"
              + " of users; as names of users they would match nobody");
    }
    if (!name.text().matches("\\w+")) {
      mistakes.add(name.place(), "a lookup's name holds letters, digits and _ only");
    }
    twice(draft.lookups, name, "lookup");
    draft.lookups.put(
        name.text(),
        new LookupEntry(
            name,
            values.get("table"),
            values.get("key"),
            values.get("keyed_by"),
            values.get("value")));
  }

  /** Without saying so, roles in the key column would silently give nobody any row. */
  private static boolean namesRoles(Scalar key) {
    return key != null && key.text().toLowerCase(Locale.ROOT).matches("(.*_)?roles?(_name)?");
  }

  private void rows(Scalar name, Mapping body) {
    List<Scalar> on = List.of();
    Map<String, String> uses = new LinkedHashMap<>();
    AppliesTo appliesTo = AppliesTo.EVERYBODY;
    Scalar rows = null;
    boolean any = true;
    boolean binds = false;
    ViewPlace view = ViewPlace.UNSAID;
    boolean enabled = true;
    for (Entry entry : body.entries()) {
      switch (entry.key().text()) {
        case "on" -> on = oneOrMore(entry.value(), "tables");
        case "uses" -> uses(entry.value(), uses);
        case "applies_to" -> appliesTo = appliesTo(entry.value());
        case "rows" -> rows = scalar(entry.value(), "a predicate");
        case "combine" ->
            any = word(entry.value(), List.of("any", "all"), "way to combine").equals("any");
        case "may_write" ->
            binds = word(entry.value(), MAY_WRITE, "way to write").equals(MAY_WRITE.get(0));
        case "place" -> view = viewPlace(entry.value());
        case "enabled" -> enabled = truth(entry.value());
        default -> unknown(entry.key(), ROW_KEYS, "key of a row policy");
      }
    }
    need(name, "row policy", on.isEmpty() ? "on" : rows == null ? "rows" : null);
    checkName(name);
    twice(draft.rowPolicies, name, "row policy");
    draft.rowPolicies.put(
        name.text(), new RowsEntry(name, on, uses, appliesTo, rows, any, binds, view, enabled));
  }

  private void checkName(Scalar name) {
    if (!name.text().matches("[\\p{L}\\p{Nd}_ -]{1,60}")) {
      mistakes.add(
          name.place(), "a policy's name holds letters, digits, blanks, _ and - only, up to 60");
    }
  }

  private void need(Scalar name, String what, String missing) {
    if (missing != null) {
      mistakes.add(name.place(), what + " " + name.text() + " has no \"" + missing + "\"");
    }
  }

  private boolean truth(Yaml yaml) {
    return word(yaml, List.of("true", "false"), "yes or no").equals("true");
  }

  private List<Scalar> oneOrMore(Yaml yaml, String what) {
    if (yaml instanceof Sequence) {
      return scalars(yaml, what);
    }
    Scalar one = scalar(yaml, what);
    return one == null ? List.of() : List.of(one);
  }

  private void uses(Yaml yaml, Map<String, String> uses) {
    Mapping body = mapping(yaml, "columns by the names they have in the predicate");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      Scalar column = scalar(entry.value(), "a column");
      if (column != null) {
        uses.put(entry.key().text(), column.text());
      }
    }
  }

  private AppliesTo appliesTo(Yaml yaml) {
    List<String> known = List.of("any_of", "all_of", "none_of");
    Mapping body = mapping(yaml, "any_of, all_of or none_of");
    Map<String, List<Scalar>> found = new LinkedHashMap<>();
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      if (known.contains(entry.key().text())) {
        found.put(entry.key().text(), scalars(entry.value(), "roles, users and conditions"));
      } else {
        unknown(entry.key(), known, "key of applies_to");
      }
    }
    return new AppliesTo(
        found.getOrDefault("any_of", List.of()),
        found.getOrDefault("all_of", List.of()),
        found.getOrDefault("none_of", List.of()));
  }

  private void masks(Scalar name, Mapping body) {
    List<Scalar> on = List.of();
    List<Scalar> in = List.of();
    AppliesTo appliesTo = AppliesTo.EVERYBODY;
    Map<String, String> uses = new LinkedHashMap<>();
    List<Scalar> clearFor = List.of();
    Scalar clearWhere = null;
    Map<Scalar, Scalar> masks = new LinkedHashMap<>();
    int rank = 0;
    ViewPlace view = ViewPlace.UNSAID;
    boolean enabled = true;
    for (Entry entry : body.entries()) {
      switch (entry.key().text()) {
        case "on" -> on = oneOrMore(entry.value(), "columns");
        case "in" -> in = oneOrMore(entry.value(), "schemas");
        case "applies_to" -> appliesTo = appliesTo(entry.value());
        case "clear_for" -> clearFor = scalars(entry.value(), "roles and users");
        case "uses" -> uses(entry.value(), uses);
        case "clear_where" -> clearWhere = scalar(entry.value(), "a predicate");
        case "mask" -> mask(entry, masks);
        case "rank" -> rank = rank(entry.value());
        case "place" -> view = viewPlace(entry.value());
        case "enabled" -> enabled = truth(entry.value());
        default -> unknown(entry.key(), MASK_KEYS, "key of a mask policy");
      }
    }
    List<Scalar> none = new ArrayList<>(appliesTo.noneOf());
    none.addAll(clearFor);
    AppliesTo all = new AppliesTo(appliesTo.anyOf(), appliesTo.allOf(), none);
    need(name, "mask policy", on.isEmpty() ? "on" : masks.isEmpty() ? "mask" : null);
    checkName(name);
    twice(draft.maskPolicies, name, "mask policy");
    draft.maskPolicies.put(
        name.text(),
        new MaskEntry(name, on, in, uses, all, clearWhere, masks, rank, view, enabled));
  }

  private ViewPlace viewPlace(Yaml yaml) {
    return word(yaml, List.of(BESIDE, UNDER_NAME), "place of a view").equals(UNDER_NAME)
        ? ViewPlace.UNDER_NAME
        : ViewPlace.BESIDE;
  }

  private int rank(Yaml yaml) {
    Scalar rank = scalar(yaml, "a number");
    if (rank != null && rank.text().matches("\\d{1,6}")) {
      return Integer.parseInt(rank.text());
    }
    mistakes.add(yaml.place(), "found " + yaml.what() + ", expected a whole number");
    return 0;
  }

  private void mask(Entry entry, Map<Scalar, Scalar> masks) {
    if (entry.value() instanceof Scalar) {
      Scalar one = scalar(entry.value(), "a mask");
      if (one != null) {
        masks.put(new Scalar("otherwise", false, one.place()), one);
      }
      return;
    }
    Mapping byKind = mapping(entry.value(), "a mask, or masks by kind of column");
    for (Entry one : byKind == null ? List.<Entry>of() : byKind.entries()) {
      Scalar mask = scalar(one.value(), "a mask");
      if (mask != null) {
        masks.put(one.key(), mask);
      }
    }
  }

  private void seal(Scalar name, Mapping body) {
    List<Scalar> on = List.of();
    List<Scalar> openTo = List.of();
    for (Entry entry : body.entries()) {
      switch (entry.key().text()) {
        case "on" -> on = oneOrMore(entry.value(), "things");
        case "open_to" -> openTo = scalars(entry.value(), "roles and users");
        default -> unknown(entry.key(), List.of("on", "open_to"), "key of a seal");
      }
    }
    need(name, "seal", on.isEmpty() ? "on" : null);
    twice(draft.seals, name, "seal");
    draft.seals.put(name.text(), new SealEntry(name, on, openTo));
  }

  /** The attributes of a user: a value or a list of values each. */
  Map<String, List<Scalar>> attributes(Yaml yaml) {
    Map<String, List<Scalar>> found = new LinkedHashMap<>();
    Mapping body = mapping(yaml, "attributes by name");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      if (entry.key().text().equals("name")) {
        mistakes.add(
            entry.key().place(), "\"name\" is no attribute: user.name is the user's own name");
      }
      List<Scalar> values = oneOrMore(entry.value(), "values");
      for (Scalar value : values) {
        if (value.text().length() > 255) {
          mistakes.add(value.place(), "an attribute's value has at most 255 characters");
        }
      }
      found.put(entry.key().text(), values);
    }
    return found;
  }
}
