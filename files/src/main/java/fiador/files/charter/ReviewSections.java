package fiador.files.charter;

import fiador.changes.wanted.Accounts;
import fiador.changes.wanted.Wanted;
import fiador.estate.DottedName;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.findings.Findings;
import fiador.findings.check.Asked;
import fiador.findings.check.Expected;
import fiador.findings.check.Limits;
import fiador.findings.check.Waiver;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Reads what a charter says to reviews: waivers, and from where on something is a finding. */
final class ReviewSections extends Shapes {
  private static final List<String> OF_WAIVER = List.of("finding", "on", "because", "until");
  private static final List<String> LIMITS =
      List.of(
          "chain_length",
          "covered_share",
          "unused_days",
          "roles_per_person",
          "secret_days",
          "refused_times");

  private final Draft draft;

  ReviewSections(Mistakes mistakes, Draft draft) {
    super(mistakes);
    this.draft = draft;
  }

  void read(Entry section) {
    if (section.key().text().equals("waivers")) {
      sequence(section.value(), "waivers").forEach(this::waiver);
    } else {
      limits(section);
    }
  }

  private void waiver(Yaml yaml) {
    Mapping body = mapping(yaml, "a waiver with finding, on, because and until");
    if (body == null) {
      return;
    }
    Map<String, Scalar> said = new LinkedHashMap<>();
    for (Entry entry : body.entries()) {
      Scalar value = scalar(entry.value(), "a text");
      if (!OF_WAIVER.contains(entry.key().text())) {
        unknown(entry.key(), OF_WAIVER, "key of a waiver");
      } else if (value != null) {
        said.put(entry.key().text(), value);
      }
    }
    for (String needed : OF_WAIVER) {
      if (!said.containsKey(needed)) {
        mistakes.add(body.place(), "the waiver has no \"" + needed + "\"");
      }
    }
    if (said.size() < OF_WAIVER.size()) {
      return;
    }
    finding(said.get("finding"));
    LocalDate until = Dates.read(said.get("until"), mistakes);
    if (until != null) {
      draft.waivers.add(
          new Waiver(
              said.get("finding").text(),
              said.get("on").text(),
              said.get("because").text(),
              until,
              body.place()));
    }
  }

  private void finding(Scalar id) {
    List<String> known = Findings.catalogue().stream().map(Asked::id).toList();
    if (!known.contains(id.text())) {
      String hint = fiador.estate.Nearest.hint(id.text(), known.stream());
      mistakes.add(
          id.place(),
          "there is no finding \"" + id.text() + "\"" + hint + "; see docs/findings.md");
    }
  }

  private void limits(Entry section) {
    Mapping body = mapping(section.value(), "limits, and off");
    Map<String, Integer> numbers = new LinkedHashMap<>();
    Set<String> off = new HashSet<>();
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      String key = entry.key().text();
      if (key.equals("off")) {
        for (Scalar id : scalars(entry.value(), "findings")) {
          finding(id);
          off.add(id.text());
        }
      } else if (LIMITS.contains(key)) {
        Scalar number = scalar(entry.value(), "a number");
        if (number != null && number.text().matches("\\d{1,6}")) {
          numbers.put(key, Integer.parseInt(number.text()));
        } else if (number != null) {
          mistakes.add(number.place(), "found " + number.what() + ", expected a number");
        }
      } else {
        List<String> known = new ArrayList<>(LIMITS);
        known.add("off");
        unknown(entry.key(), known, "key of findings");
      }
    }
    Limits usual = Limits.USUAL;
    draft.limits =
        new Limits(
            numbers.getOrDefault("chain_length", usual.chainLength()),
            numbers.getOrDefault("covered_share", usual.coveredShare()),
            numbers.getOrDefault("unused_days", usual.unusedDays()),
            numbers.getOrDefault("roles_per_person", usual.rolesPerPerson()),
            numbers.getOrDefault("secret_days", usual.secretDays()),
            numbers.getOrDefault("refused_times", usual.refusedTimes()),
            Set.copyOf(off));
  }

  /** All that a draft says to reviews. */
  static Expected expected(Draft draft, Wanted wanted, Accounts accounts) {
    Map<String, String> names = new LinkedHashMap<>();
    draft.namePatterns.forEach((what, pattern) -> names.put(what, pattern.text()));
    Map<String, String> purposes = new LinkedHashMap<>();
    draft.roles.forEach((name, role) -> purposes.put(stored(name), role.purpose()));
    Map<String, String> kinds = new LinkedHashMap<>();
    Map<String, Instant> ends = new LinkedHashMap<>();
    draft.users.forEach(
        (name, user) -> {
          kinds.put(stored(name), user.kind());
          if (user.login().until() != null) {
            ends.put(stored(name), user.login().until());
          }
        });
    Map<String, List<String>> duties = new LinkedHashMap<>();
    draft.dutyConflicts.forEach(
        (name, roles) ->
            duties.put(name.text(), roles.stream().map(role -> stored(role.text())).toList()));
    Set<String> ours = new HashSet<>();
    for (Charter.ServerEntry server : draft.servers.values()) {
      ours.add(server.login());
      ours.add(server.login().toUpperCase(Locale.ROOT));
    }
    return new Expected(
        draft.umbrella == null ? null : stored(draft.umbrella.text()),
        names,
        purposes,
        kinds,
        ends,
        wanted,
        duties,
        wanted.sight().seals(),
        List.copyOf(draft.waivers),
        ours,
        draft.limits,
        accounts);
  }

  /** A name in quotes is meant as it stands. */
  private static String stored(String name) {
    boolean quoted = name.length() > 2 && name.startsWith("\"") && name.endsWith("\"");
    return quoted ? DottedName.split(name).get(0).text() : name;
  }
}
