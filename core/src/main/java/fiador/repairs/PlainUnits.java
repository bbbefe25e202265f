package fiador.repairs;

import fiador.changes.steps.Grant;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.evidence.Evidence;
import fiador.findings.check.Facts;
import fiador.findings.check.Phrase;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.rules.Activation;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What plain roles and grants give, taken apart into single privileges that are counted through, so
 * that sets of them are sets of bits.
 */
final class PlainUnits {
  private final Facts facts;
  private final Access access;
  private final List<Unit> units = new ArrayList<>();
  private final Map<Unit, Integer> ids = new HashMap<>();
  private final Map<Integer, BitSet> ofRole = new HashMap<>();
  private final Set<Integer> fixed = new HashSet<>();

  /** One privilege on one node, or on columns of it. */
  private record Unit(long privilege, int node, int columns) {}

  PlainUnits(Facts facts) {
    this.facts = facts;
    this.access = facts.access;
  }

  /** The roles that are known to be plain. */
  Set<Integer> roles() {
    return ofRole.keySet();
  }

  /** Those among some that a use needs. */
  BitSet serving(BitSet all, Evidence.Use use) {
    BitSet some = new BitSet();
    all.stream().filter(id -> serves(units.get(id), use)).forEach(some::set);
    return some;
  }

  private boolean serves(Unit unit, Evidence.Use use) {
    if (unit.privilege() != use.privilege().bit() || unit.node() != use.node()) {
      return false;
    }
    if (unit.columns() == ColumnSets.WHOLE || use.column() < 0) {
      return true;
    }
    for (int ordinal : access.columnSets().ordinals(unit.columns())) {
      if (ordinal == use.column()) {
        return true;
      }
    }
    return false;
  }

  /** Whether it counts as soon as it is there, for good, and may not be given on. */
  boolean isPlain(int edge) {
    Membership how = access.memberships().options(edge);
    boolean switches = how.set() || access.rules().activation() == Activation.ALL_ON;
    boolean lasting = !how.implicit() && how.until() == Terms.FOREVER;
    return how.inherit() && switches && !how.admin() && lasting;
  }

  /** Whether a new role could be given the same. */
  boolean isPlainGrant(int row) {
    Grants grants = access.grants();
    Terms terms = grants.terms(row);
    long possible = access.rules().grantableOn(facts.tree.kind(grants.node(row)));
    return terms.grantable() == 0
        && terms.covers() == 0
        && terms.isByName()
        && terms.until() == Terms.FOREVER
        && (terms.privileges() & ~possible) == 0
        && terms.privileges() != 0
        && !facts.tree.isSystem(grants.node(row));
  }

  /** Adds what a grant gives. */
  void add(int row, BitSet into) {
    Grants grants = access.grants();
    for (long rest = grants.terms(row).privileges(); rest != 0; rest &= rest - 1) {
      Unit unit = new Unit(Long.lowestOneBit(rest), grants.node(row), grants.columns(row));
      into.set(
          ids.computeIfAbsent(
              unit,
              fresh -> {
                units.add(fresh);
                return units.size() - 1;
              }));
    }
  }

  /** What a role gives; null where it is more than a role of plain privileges. */
  BitSet of(int role) {
    if (fixed.contains(role)) {
      return null;
    }
    BitSet known = ofRole.get(role);
    if (known != null) {
      return known;
    }
    BitSet gives = new BitSet();
    for (int held : facts.reach.up(role)) {
      boolean plain =
          facts.isRole(held)
              && held != facts.umbrella()
              && facts.people.powers(held) == 0
              && facts.people.scope(held) < 0
              && facts.tree.owned().run(held).length == 0
              && access.denials().byGrantee().run(held).length == 0
              && !isNamedByPolicies(held);
      for (int edge : plain ? access.memberships().rolesOf().run(held) : new int[0]) {
        plain &= isPlain(edge);
      }
      for (int row : plain ? access.grants().byGrantee().run(held) : new int[0]) {
        plain &= isPlainGrant(row);
        if (plain) {
          add(row, gives);
        }
      }
      if (!plain) {
        fixed.add(role);
        return null;
      }
    }
    ofRole.put(role, gives);
    return gives;
  }

  private boolean isNamedByPolicies(int role) {
    String name = facts.people.name(role);
    return access.sights().kept().values().stream().anyMatch(kept -> kept.policies().contains(name))
        || access.sights().filters().values().stream()
            .flatMap(filter -> filter.rules().stream())
            .anyMatch(
                rule ->
                    rule.roles().contains(role)
                        || rule.using() != null && rule.using().contains(name));
  }

  /** Whether a role has all of that already, so that a role with it gives it nothing. */
  boolean hasAll(int role, BitSet some) {
    Set<Unit> has = new HashSet<>();
    for (int held : facts.reach.up(role)) {
      for (int row : access.grants().byGrantee().run(held)) {
        long privileges = access.grants().terms(row).privileges();
        for (long rest = privileges; rest != 0; rest &= rest - 1) {
          int node = access.grants().node(row);
          has.add(new Unit(Long.lowestOneBit(rest), node, access.grants().columns(row)));
        }
      }
    }
    return some.stream().allMatch(id -> has.contains(units.get(id)));
  }

  /** Privileges by the place they are on. */
  private Map<List<Integer>, Long> places(BitSet some) {
    Map<List<Integer>, Long> places = new LinkedHashMap<>();
    some.stream()
        .mapToObj(units::get)
        .sorted((one, other) -> Integer.compare(one.node(), other.node()))
        .forEach(
            unit ->
                places.merge(
                    List.of(unit.node(), unit.columns()), unit.privilege(), (a, b) -> a | b));
    return places;
  }

  /** The steps that give all of that to a role. */
  void grants(BitSet some, String name, List<Step> steps) {
    places(some)
        .forEach(
            (place, bits) -> {
              List<String> columns = new ArrayList<>();
              if (place.get(1) != ColumnSets.WHOLE) {
                for (int ordinal : access.columnSets().ordinals(place.get(1))) {
                  columns.add(facts.tree.column(place.get(0), ordinal));
                }
              }
              steps.add(new Grant(bits, facts.taking.on(place.get(0)), columns, name, false));
            });
  }

  /** The same in words. */
  List<Phrase> said(BitSet some) {
    List<Phrase> said = new ArrayList<>();
    List<Phrase> gates = new ArrayList<>();
    places(some)
        .forEach(
            (place, bits) -> {
              int node = place.get(0);
              boolean gate =
                  facts.tree.kind(node) == NodeKind.SCHEMA && bits == Privilege.USAGE.bit();
              Phrase phrase = new Phrase().privileges(bits);
              if (place.get(1) != ColumnSets.WHOLE) {
                BitSet columns = new BitSet();
                for (int ordinal : access.columnSets().ordinals(place.get(1))) {
                  columns.set(ordinal);
                }
                phrase.say(" (").columns(node, columns).say(")");
              }
              phrase.say(" on ");
              // a way in says little; it stands last
              (gate ? gates : said).add(phrase.where(node));
            });
    said.addAll(gates);
    return said;
  }
}
