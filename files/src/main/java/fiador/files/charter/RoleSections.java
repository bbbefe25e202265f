package fiador.files.charter;

import fiador.files.charter.Draft.RoleEntry;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Reads roles, patterns of roles, and what everybody has. */
final class RoleSections extends PrincipalKeys {
  private static final List<String> PURPOSES = List.of("access", "duty", "owner", "umbrella");

  RoleSections(Mistakes mistakes, Draft draft) {
    super(mistakes, draft);
  }

  void role(Scalar name, Mapping body) {
    RoleEntry entry =
        roleBody(
            name,
            body,
            List.of("purpose", "includes", "may", "may_not", "owns", "known_in", "was", "powers"));
    addRole(entry);
  }

  private void addRole(RoleEntry entry) {
    RoleEntry before = draft.roles.putIfAbsent(entry.name().text(), entry);
    if (before != null) {
      mistakes.add(
          entry.name().place(),
          "role "
              + entry.name().text()
              + " stands here a second time, after "
              + before.name().place());
    }
  }

  private RoleEntry roleBody(Scalar name, Mapping body, List<String> known) {
    String purpose = "";
    List<Scalar> includes = List.of();
    List<Sentence> may = new ArrayList<>();
    List<Sentence> mayNot = new ArrayList<>();
    List<Scalar> owns = List.of();
    for (Entry entry : body.entries()) {
      switch (known.contains(entry.key().text()) ? entry.key().text() : "") {
        case "purpose" -> purpose = word(entry.value(), PURPOSES, "purpose");
        case "includes" -> includes = scalars(entry.value(), "roles");
        case "may" -> may.addAll(sentences(entry));
        case "may_not" -> mayNot.addAll(sentences(entry));
        case "owns" -> owns = scalars(entry.value(), "things owned");
        case "known_in" -> knownIn(name, entry.value());
        case "was" -> was(name, entry.value());
        case "powers" -> powers(name, entry.value());
        case "each", "role" -> {
          // read by the pattern itself
        }
        default -> unknown(entry.key(), known, "key of a role");
      }
    }
    return new RoleEntry(name, purpose, includes, may, mayNot, owns);
  }

  void pattern(Yaml yaml) {
    Mapping body = mapping(yaml, "a pattern with each, role and may");
    if (body == null) {
      return;
    }
    Yaml each = body.get("each");
    Yaml role = body.get("role");
    if (each == null || role == null) {
      mistakes.add(body.place(), "a pattern needs \"each\" and \"role\"");
      return;
    }
    Scalar name = scalar(role, "a role's name");
    Mapping variables = mapping(each, "variables and their values, such as {schema: [a, b]}");
    if (name == null || variables == null) {
      return;
    }
    RoleEntry template =
        roleBody(
            name, body, List.of("each", "role", "purpose", "includes", "may", "may_not", "owns"));
    List<Map<String, String>> combinations = new ArrayList<>(List.of(Map.of()));
    for (Entry variable : variables.entries()) {
      List<Map<String, String>> longer = new ArrayList<>();
      for (Map<String, String> so : combinations) {
        for (Scalar value : scalars(variable.value(), "values")) {
          Map<String, String> with = new LinkedHashMap<>(so);
          with.put(variable.key().text(), value.text());
          longer.add(with);
        }
      }
      combinations = longer;
    }
    if (!combinations.isEmpty()) {
      RoleTemplate.check(template, List.copyOf(combinations.get(0).keySet()), mistakes);
    }
    combinations.forEach(values -> addRole(RoleTemplate.filled(template, values)));
  }

  void everybody(Entry section) {
    Mapping body = mapping(section.value(), "what everybody holds and may");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      switch (entry.key().text()) {
        case "may" -> draft.everybodyMay.addAll(sentences(entry));
        case "roles" -> draft.everybodysRoles.addAll(scalars(entry.value(), "roles"));
        default -> unknown(entry.key(), List.of("roles", "may"), "key of public");
      }
    }
  }
}
