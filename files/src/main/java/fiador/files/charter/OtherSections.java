package fiador.files.charter;

import fiador.files.ledger.ReviewKey;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import java.util.ArrayList;
import java.util.List;

/** Reads the sections of a charter that are about the rest of it: what it decides and must hold. */
final class OtherSections extends Shapes {
  private static final List<String> NAMED =
      List.of("access_role", "duty_role", "owner_role", "user");

  private final Draft draft;

  OtherSections(Mistakes mistakes, Draft draft) {
    super(mistakes);
    this.draft = draft;
  }

  void read(Entry section) {
    switch (section.key().text()) {
      case "governs" -> governs(section);
      case "conventions" -> conventions(section);
      case "duty_conflicts" -> dutyConflicts(section);
      case "review_keys" -> reviewKeys(section);
      default -> draft.proofs.addAll(scalars(section.value(), "proofs"));
    }
  }

  private void reviewKeys(Entry section) {
    Mapping body = mapping(section.value(), "names, each with the public part of a key");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      Scalar key = scalar(entry.value(), "the public part of a key");
      if (key != null && !ReviewKey.isPublic(key.text())) {
        mistakes.add(key.place(), "this is no public part of a key; fiador review key shows one");
      } else if (key != null) {
        draft.reviewKeys.put(entry.key().text(), key.text());
      }
    }
  }

  private void governs(Entry section) {
    List<String> known = List.of("schemas", "roles", "users", "public");
    Mapping body = mapping(section.value(), "schemas, roles and users");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      switch (entry.key().text()) {
        case "schemas" -> draft.governedSchemas.addAll(scalars(entry.value(), "schemas"));
        case "roles" -> draft.governedRoles.addAll(scalars(entry.value(), "roles"));
        case "users" -> draft.governedUsers.addAll(scalars(entry.value(), "users"));
        case "public" ->
            draft.governsEverybody =
                word(entry.value(), List.of("true", "false"), "yes or no").equals("true");
        default -> unknown(entry.key(), known, "key of governs");
      }
    }
  }

  private void conventions(Entry section) {
    Mapping body = mapping(section.value(), "umbrella and names");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      switch (entry.key().text()) {
        case "umbrella" -> draft.umbrella = scalar(entry.value(), "a role");
        case "names" -> names(entry);
        default -> unknown(entry.key(), List.of("umbrella", "names"), "key of conventions");
      }
    }
  }

  private void names(Entry section) {
    Mapping body = mapping(section.value(), "patterns of names by what they are for");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      Scalar pattern = scalar(entry.value(), "a pattern of names");
      if (!NAMED.contains(entry.key().text())) {
        unknown(entry.key(), NAMED, "kind of name");
      } else if (pattern != null) {
        draft.namePatterns.put(entry.key().text(), pattern);
      }
    }
  }

  private void dutyConflicts(Entry section) {
    Mapping body = mapping(section.value(), "lists of roles by name");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      List<Scalar> roles = new ArrayList<>();
      for (Scalar written : scalars(entry.value(), "roles")) {
        boolean said = written.text().startsWith("role ");
        String name = said ? written.text().substring("role ".length()) : written.text();
        roles.add(new Scalar(name, written.quoted(), written.place()));
      }
      if (roles.size() < 2) {
        mistakes.add(entry.key().place(), "a duty conflict needs at least two roles");
      }
      draft.dutyConflicts.put(entry.key(), roles);
    }
  }
}
