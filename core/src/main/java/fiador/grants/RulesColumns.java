package fiador.grants;

import fiador.columns.PackedReader;
import fiador.columns.PackedWriter;
import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.rules.Activation;
import fiador.grants.rules.Folding;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.KnownHouses;
import fiador.grants.rules.NameRules;
import fiador.grants.rules.NameRules.Length;
import fiador.grants.rules.NameRules.Unit;
import fiador.grants.rules.Numbers;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.WaysUp;
import java.util.EnumMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Lays down the house rules of kinds that no code knows, and takes them up again. */
final class RulesColumns {
  private RulesColumns() {}

  static void put(Origin about, HouseRules rules, PackedWriter rest) {
    boolean known = KnownHouses.of(about.kind(), about.version()) != null;
    rest.flag(known);
    if (known) {
      return;
    }
    byKind(rules.privileges(), rest);
    rest.bits(rules.columnPrivileges()).bits(rules.neverGranted()).bits(rules.guarded());
    rest.each(
        rules.gates(),
        gate ->
            rest.number(gate.container().ordinal())
                .number(gate.privilege().ordinal())
                .flag(gate.atLogin())
                .flag(gate.ownPrivileges())
                .flag(gate.sealedOnly()));
    rest.number(rules.activation().ordinal()).number(rules.ownership().ordinal());
    rest.each(
        List.copyOf(rules.powers().keySet()),
        power -> {
          rest.number(power.ordinal());
          byKind(rules.powers().get(power), rest);
        });
    rest.each(rules.systemColumns(), rest::text);
    rest.each(List.copyOf(rules.accountLimits()), limit -> rest.number(limit.ordinal()));
    NameRules names = rules.names();
    rest.number(names.folding().ordinal()).number(names.quote());
    for (Length length : List.of(names.principals(), names.things())) {
      rest.number(length.most()).number(length.unit().ordinal());
    }
    rest.flag(names.keepsBlanks()).flag(names.allPlanes());
    rest.each(names.own(), rest::text).each(names.ownPrefixes(), rest::text);
    Numbers numbers = rules.numbers();
    rest.number(numbers.mostDigits())
        .number(numbers.wholeDigits())
        .number(numbers.fractionDigits());
    WaysUp ways = rules.waysUp();
    rest.each(ways.rolesThatLeaveTheServer(), rest::text);
    rest.bits(ways.setsAnySecret()).bits(ways.makesInAnyName());
    rest.optional(ways.roleThatTakesAnyPlace()).optional(ways.accountsSchema());
    rest.each(List.copyOf(rules.facts()), fact -> rest.text(fact.name()));
  }

  /**
   * The rules of a survey.
   *
   * @throws IllegalArgumentException when its kind is not known, or they are those of another
   *     version of this program
   */
  static HouseRules take(Origin about, PackedReader rest) {
    if (rest.flag()) {
      HouseRules known = KnownHouses.of(about.kind(), about.version());
      if (known == null) {
        throw new IllegalArgumentException("the kind of server " + about.kind() + " is not known");
      }
      return known;
    }
    HouseRulesBuilder rules = new HouseRulesBuilder(about.kind());
    byKind(rest).forEach(rules::on);
    rules.onColumns(rest.bits()).neverGranted(rest.bits()).guarded(rest.bits());
    rest.list(
            () ->
                new Gate(
                    NodeKind.at(rest.number()),
                    Privilege.values()[rest.number()],
                    rest.flag(),
                    rest.flag(),
                    rest.flag()))
        .forEach(rules::gate);
    rules.roles(Activation.values()[rest.number()]).owners(Ownership.values()[rest.number()]);
    rest.list(() -> rules.power(Power.values()[rest.number()], byKind(rest)));
    rules.systemColumns(rest.list(rest::text).toArray(String[]::new));
    rules.accountLimits(Set.copyOf(rest.list(() -> AccountLimit.values()[rest.number()])));
    Folding folding = Folding.values()[rest.number()];
    char quote = (char) rest.number();
    Length principals = length(rest);
    Length things = length(rest);
    rules.names(
        new NameRules(
            folding,
            quote,
            principals,
            things,
            rest.flag(),
            rest.flag(),
            new LinkedHashSet<>(rest.list(rest::text)),
            new LinkedHashSet<>(rest.list(rest::text))));
    rules.numbers(new Numbers(rest.number(), rest.number(), rest.number()));
    rules.waysUp(
        new WaysUp(
            new LinkedHashSet<>(rest.list(rest::text)),
            rest.bits(),
            rest.bits(),
            rest.optional(),
            rest.optional()));
    rest.list(rest::text).forEach(name -> rules.with(HouseFact.valueOf(name)));
    return rules.build();
  }

  private static Length length(PackedReader rest) {
    return new Length(rest.number(), Unit.values()[rest.number()]);
  }

  private static void byKind(Map<NodeKind, Long> privileges, PackedWriter rest) {
    rest.each(
        List.copyOf(privileges.keySet()),
        kind -> rest.number(kind.ordinal()).bits(privileges.get(kind)));
  }

  private static Map<NodeKind, Long> byKind(PackedReader rest) {
    Map<NodeKind, Long> found = new EnumMap<>(NodeKind.class);
    rest.list(() -> found.put(NodeKind.at(rest.number()), rest.bits()));
    return found;
  }
}
