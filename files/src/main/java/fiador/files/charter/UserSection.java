package fiador.files.charter;

import fiador.changes.wanted.Wanted;
import fiador.estate.AccountLimit;
import fiador.files.charter.Draft.UserEntry;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Reads users. */
final class UserSection extends PrincipalKeys {
  UserSection(Mistakes mistakes, Draft draft) {
    super(mistakes, draft);
  }

  void user(Scalar name, Mapping body) {
    List<String> known =
        List.of(
            "kind",
            "roles",
            "may",
            "hosts",
            "until",
            "disabled",
            "limits",
            "known_in",
            "was",
            "powers",
            "attributes",
            "accounts");
    String kind = "person";
    List<Scalar> roles = List.of();
    List<String> hosts = List.of();
    List<Sentence> may = new ArrayList<>();
    Instant until = null;
    boolean disabled = false;
    Map<AccountLimit, Integer> limits = null;
    for (Entry entry : body.entries()) {
      switch (entry.key().text()) {
        case "kind" -> kind = word(entry.value(), List.of("person", "service"), "kind of user");
        case "roles" -> roles = scalars(entry.value(), "roles");
        case "may" -> may.addAll(sentences(entry));
        case "attributes" ->
            draft.attributes.put(
                name.text(), new SightSections(mistakes, draft).attributes(entry.value()));
        case "accounts" -> accounts(name, entry.value());
        case "hosts" -> hosts = scalars(entry.value(), "hosts").stream().map(Scalar::text).toList();
        case "until" ->
            until = Moments.read(scalar(entry.value(), "a day such as 2027-03-31"), true, mistakes);
        case "known_in" -> knownIn(name, entry.value());
        case "was" -> was(name, entry.value());
        case "powers" -> powers(name, entry.value());
        case "limits" -> limits = new LimitSection(mistakes).read(entry.value());
        case "disabled" ->
            disabled = word(entry.value(), List.of("true", "false"), "yes or no").equals("true");
        default -> unknown(entry.key(), known, "key of a user");
      }
    }
    UserEntry entry =
        new UserEntry(
            name, kind, roles, may, new Wanted.LoginTerms(disabled, until, hosts, limits));
    UserEntry before = draft.users.putIfAbsent(name.text(), entry);
    if (before != null) {
      mistakes.add(
          name.place(),
          "user " + name.text() + " stands here a second time, after " + before.name().place());
    }
  }

  private void accounts(Scalar user, Yaml value) {
    Mapping body = mapping(value, "the user's accounts by server");
    Map<Scalar, List<Scalar>> found = new LinkedHashMap<>();
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      List<Scalar> names =
          entry.value() instanceof Scalar one
              ? List.of(one)
              : scalars(entry.value(), "accounts of one server");
      found.put(entry.key(), names.stream().filter(name -> !name.text().isEmpty()).toList());
    }
    draft.accounts.put(user.text(), found);
  }
}
