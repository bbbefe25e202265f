package fiador.files.houses;

import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.grants.rules.Activation;
import fiador.grants.rules.Folding;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.NameRules;
import fiador.grants.rules.NameRules.Length;
import fiador.grants.rules.NameRules.Unit;
import fiador.grants.rules.Numbers;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.WaysUp;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads house rules, and notes all that is wrong with them. */
final class RulesReader extends Shapes {
  static final String COLUMNS = "columns";

  static final List<String> KEYS =
      List.of(
          "privileges",
          "never_granted",
          "guarded",
          "gates",
          "roles",
          "owners",
          "powers",
          "system_columns",
          "limits",
          "names",
          "numbers",
          "ways_up",
          "so");

  private static final List<String> GATE_KEYS = List.of("on", "needs", "when", "own", "where");
  private static final List<String> WHEN = List.of("login", "use");
  private static final List<String> WHERE = List.of("sealed");
  private static final List<String> NAME_KEYS =
      List.of(
          "unquoted",
          "quote",
          "principals",
          "things",
          "keeps_blanks",
          "all_planes",
          "own",
          "own_prefixes");
  private static final List<String> NUMBER_KEYS =
      List.of("most_digits", "whole_digits", "fraction_digits");
  private static final List<String> WAYS_KEYS =
      List.of(
          "roles_that_leave_the_server",
          "sets_any_secret",
          "makes_in_any_name",
          "role_that_takes_any_place",
          "accounts_schema");
  private static final Pattern LENGTH = Pattern.compile("([1-9]\\d{0,5}) (bytes|characters)");

  RulesReader(Mistakes mistakes) {
    super(mistakes);
  }

  /**
   * The rules.
   *
   * @param kind the kind of server they are of
   * @return null where something is wrong, which is noted
   */
  @Nullable HouseRules read(String kind, Mapping body) {
    int before = mistakes.list().size();
    HouseRulesBuilder rules = new HouseRulesBuilder(kind);
    if (body.get("privileges") == null) {
      mistakes.add(body.place(), "nothing is said of privileges: which exist on what");
    }
    if (body.get("names") == null) {
      mistakes.add(body.place(), "nothing is said of names: how they are folded and quoted");
    }
    for (Entry entry : body.entries()) {
      Yaml value = entry.value();
      switch (entry.key().text()) {
        case "privileges" -> privileges(rules, value);
        case "never_granted" -> rules.neverGranted(array(privileges(value)));
        case "guarded" -> rules.guarded(array(privileges(value)));
        case "gates" -> sequence(value, "gates").forEach(gate -> gate(rules, gate));
        case "roles" -> put(choice(Activation.values(), value, "way roles count"), rules::roles);
        case "owners" -> put(choice(Ownership.values(), value, "ownership"), rules::owners);
        case "powers" -> powers(rules, value);
        case "system_columns" -> rules.systemColumns(texts(value).toArray(String[]::new));
        case "limits" -> rules.accountLimits(limits(value));
        case "names" -> put(names(value), rules::names);
        case "numbers" -> put(numbers(value), rules::numbers);
        case "ways_up" -> put(waysUp(value), rules::waysUp);
        case "so" -> rules.with(facts(value));
        default -> unknown(entry.key(), KEYS, "house rule");
      }
    }
    return mistakes.list().size() > before ? null : rules.build();
  }

  private static <T> void put(@Nullable T value, java.util.function.Consumer<T> into) {
    if (value != null) {
      into.accept(value);
    }
  }

  private <E extends Enum<E>> @Nullable E choice(E[] values, Yaml yaml, String what) {
    return Words.named(values, word(yaml, Words.all(values), what));
  }

  private @Nullable NodeKind kind(Scalar scalar) {
    NodeKind kind = NodeKind.named(scalar.text());
    if (kind == null) {
      List<String> known = Stream.of(NodeKind.values()).map(NodeKind::text).toList();
      unknown(scalar, known, "kind of thing");
    }
    return kind;
  }

  List<Privilege> privileges(Yaml yaml) {
    List<String> known = Stream.of(Privilege.values()).map(Privilege::text).toList();
    List<Privilege> found = new ArrayList<>();
    for (Scalar scalar : scalars(yaml, "privileges")) {
      Privilege privilege = Privilege.named(scalar.text());
      if (privilege == null) {
        unknown(scalar, known, "privilege");
      } else {
        found.add(privilege);
      }
    }
    return found;
  }

  private static Privilege[] array(List<Privilege> privileges) {
    return privileges.toArray(Privilege[]::new);
  }

  private void privileges(HouseRulesBuilder rules, Yaml yaml) {
    Mapping body = mapping(yaml, "privileges by the kind of thing they are on");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      Privilege[] exist = array(privileges(entry.value()));
      if (entry.key().text().equals(COLUMNS)) {
        rules.onColumns(exist);
      } else {
        put(kind(entry.key()), kind -> rules.on(kind, exist));
      }
    }
  }

  private void gate(HouseRulesBuilder rules, Yaml yaml) {
    Mapping body = mapping(yaml, "a gate: {on: schema, needs: usage}");
    if (body == null) {
      return;
    }
    known(body, GATE_KEYS, "key of a gate");
    Yaml on = body.get("on");
    Yaml needs = body.get("needs");
    if (on == null || needs == null) {
      mistakes.add(body.place(), "a gate says on: what kind of container and needs: a privilege");
      return;
    }
    Scalar container = scalar(on, "a kind of container");
    Scalar privilege = scalar(needs, "a privilege");
    NodeKind kind = container == null ? null : kind(container);
    Privilege needed = privilege == null ? null : Privilege.named(privilege.text());
    if (kind != null && kind.isObject()) {
      mistakes.add(body.place(), "a gate is on a container: server, database or schema");
    } else if (privilege != null && needed == null) {
      mistakes.add(privilege.place(), "there is no privilege \"" + privilege.text() + "\"");
    } else if (kind != null && needed != null) {
      Yaml when = body.get("when");
      boolean login = when != null && word(when, WHEN, "time a gate is looked at").equals("login");
      Yaml where = body.get("where");
      boolean sealed = where != null && word(where, WHERE, "place of a gate").equals("sealed");
      if (sealed && (login || body.get("own") != null || kind == NodeKind.SERVER)) {
        mistakes.add(
            body.place(),
            "a gate of what is sealed is on databases or schemas, and looked at in use, for all that"
                + " is there: leave out when and own");
      } else if (sealed) {
        rules.gate(Gate.ofSealed(kind, needed));
      } else {
        rules.gate(new Gate(kind, needed, login, flag(body, "own", false)));
      }
    }
  }

  private void powers(HouseRulesBuilder rules, Yaml yaml) {
    Mapping body = mapping(yaml, "powers and what each opens");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      Power power = Power.named(entry.key().text());
      Mapping opens = mapping(entry.value(), "privileges by the kind of thing they are on");
      if (power == null) {
        unknown(entry.key(), Stream.of(Power.values()).map(Power::text).toList(), "power");
      } else if (power == Power.SUPERUSER) {
        mistakes.add(entry.key().place(), "a superuser holds everything; that need not be said");
      } else if (opens != null) {
        Map<NodeKind, Long> opened = new EnumMap<>(NodeKind.class);
        for (Entry on : opens.entries()) {
          long bits = PrivilegeSet.of(array(privileges(on.value())));
          put(kind(on.key()), kind -> opened.put(kind, bits));
        }
        rules.power(power, opened);
      }
    }
  }

  private Set<AccountLimit> limits(Yaml yaml) {
    Set<AccountLimit> found = EnumSet.noneOf(AccountLimit.class);
    for (Scalar scalar : scalars(yaml, "limits")) {
      AccountLimit limit = Words.named(AccountLimit.values(), scalar.text());
      if (limit == null) {
        unknown(scalar, Words.all(AccountLimit.values()), "limit of an account");
      } else {
        found.add(limit);
      }
    }
    return found;
  }

  private HouseFact[] facts(Yaml yaml) {
    List<HouseFact> found = new ArrayList<>();
    for (Scalar scalar : scalars(yaml, "facts")) {
      HouseFact fact = Words.named(HouseFact.values(), scalar.text());
      if (fact == null) {
        unknown(scalar, Words.all(HouseFact.values()), "fact about a kind of server");
      } else {
        found.add(fact);
      }
    }
    return found.toArray(HouseFact[]::new);
  }

  private @Nullable NameRules names(Yaml yaml) {
    Mapping body = mapping(yaml, "how names are folded and quoted");
    if (body == null) {
      return null;
    }
    known(body, NAME_KEYS, "rule about names");
    Yaml unquoted = body.get("unquoted");
    Folding folding =
        unquoted == null ? Folding.NONE : choice(Folding.values(), unquoted, "way to fold names");
    Yaml quote = body.get("quote");
    Scalar mark = quote == null ? null : scalar(quote, "a character");
    boolean odd = mark != null && !mark.text().matches("[^\\p{L}\\p{N}\\s\\\\.]");
    if (mark != null && odd) {
      mistakes.add(mark.place(), "a name is put between one character and the same again");
      return null;
    }
    return folding == null
        ? null
        : new NameRules(
            folding,
            mark == null ? '"' : mark.text().charAt(0),
            length(body, "principals"),
            length(body, "things"),
            flag(body, "keeps_blanks", true),
            flag(body, "all_planes", true),
            new LinkedHashSet<>(optionalTexts(body, "own")),
            new LinkedHashSet<>(optionalTexts(body, "own_prefixes")));
  }

  private Length length(Mapping body, String key) {
    Yaml yaml = body.get(key);
    Scalar scalar = yaml == null ? null : scalar(yaml, "a length");
    if (scalar == null) {
      return new Length(128, Unit.CHARACTERS);
    }
    Matcher length = LENGTH.matcher(scalar.text());
    if (!length.matches()) {
      mistakes.add(scalar.place(), "expected a length: 128 characters, or 63 bytes");
      return new Length(1, Unit.BYTES);
    }
    boolean bytes = length.group(2).equals("bytes");
    return new Length(Integer.parseInt(length.group(1)), bytes ? Unit.BYTES : Unit.CHARACTERS);
  }

  private @Nullable Numbers numbers(Yaml yaml) {
    Mapping body = mapping(yaml, "how many digits are reckoned with");
    if (body == null) {
      return null;
    }
    known(body, NUMBER_KEYS, "rule about numbers");
    return new Numbers(
        digits(body, "most_digits"), digits(body, "whole_digits"), digits(body, "fraction_digits"));
  }

  private int digits(Mapping body, String key) {
    Yaml yaml = body.get(key);
    Scalar scalar = yaml == null ? null : scalar(yaml, "a number of digits");
    if (scalar == null) {
      return Integer.MAX_VALUE;
    }
    if (!scalar.text().matches("\\d{1,5}")) {
      mistakes.add(scalar.place(), "expected a number of digits");
      return 0;
    }
    return Integer.parseInt(scalar.text());
  }

  private @Nullable WaysUp waysUp(Yaml yaml) {
    Mapping body = mapping(yaml, "ways to become an administrator");
    if (body == null) {
      return null;
    }
    known(body, WAYS_KEYS, "way to become an administrator");
    return new WaysUp(
        new LinkedHashSet<>(optionalTexts(body, "roles_that_leave_the_server")),
        optionalPrivileges(body, "sets_any_secret"),
        optionalPrivileges(body, "makes_in_any_name"),
        optionalText(body, "role_that_takes_any_place"),
        optionalText(body, "accounts_schema"));
  }

  private long optionalPrivileges(Mapping body, String key) {
    Yaml yaml = body.get(key);
    return yaml == null ? 0 : PrivilegeSet.of(array(privileges(yaml)));
  }

  private @Nullable String optionalText(Mapping body, String key) {
    Yaml yaml = body.get(key);
    Scalar scalar = yaml == null ? null : scalar(yaml, "a name");
    return scalar == null ? null : scalar.text();
  }

  private List<String> optionalTexts(Mapping body, String key) {
    Yaml yaml = body.get(key);
    return yaml == null ? List.of() : texts(yaml);
  }

  private List<String> texts(Yaml yaml) {
    List<String> found = new ArrayList<>();
    for (Yaml item : sequence(yaml, "names")) {
      // an account without a name is one too
      if (item instanceof Scalar text) {
        found.add(text.text());
      } else {
        scalar(item, "a name");
      }
    }
    return found;
  }

  private boolean flag(Mapping body, String key, boolean usual) {
    Yaml yaml = body.get(key);
    return yaml == null
        ? usual
        : word(yaml, List.of("true", "false"), "truth value").equals("true");
  }

  private void known(Mapping body, List<String> keys, String what) {
    for (Entry entry : body.entries()) {
      if (!keys.contains(entry.key().text())) {
        unknown(entry.key(), keys, what);
      }
    }
  }
}
