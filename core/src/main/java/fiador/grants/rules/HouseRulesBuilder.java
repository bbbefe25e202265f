package fiador.grants.rules;

import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Puts house rules together by name; what is not said is not there. */
public final class HouseRulesBuilder {
  private final String kind;
  private final Map<NodeKind, Long> privileges = new EnumMap<>(NodeKind.class);
  private long columns;
  private long neverGranted;
  private long guarded;
  private final List<Gate> gates = new ArrayList<>();
  private Activation activation = Activation.ALL_ON;
  private Ownership ownership = Ownership.NONE;
  private final Map<Power, Map<NodeKind, Long>> powers = new EnumMap<>(Power.class);
  private Set<String> systemColumns = Set.of();
  private Set<AccountLimit> accountLimits = Set.of();
  private @Nullable NameRules names;
  private Numbers numbers = Numbers.EXACT;
  private WaysUp waysUp = WaysUp.NONE;
  private final EnumSet<HouseFact> facts = EnumSet.noneOf(HouseFact.class);

  /** Begins with no rule at all. */
  public HouseRulesBuilder(String kind) {
    this.kind = kind;
  }

  /** These privileges exist on that kind of node. */
  public HouseRulesBuilder on(NodeKind node, Privilege... exist) {
    return on(node, PrivilegeSet.of(exist));
  }

  /** These privileges exist on that kind of node. */
  public HouseRulesBuilder on(NodeKind node, long exist) {
    privileges.put(node, exist);
    return this;
  }

  /** These can be given on columns. */
  public HouseRulesBuilder onColumns(Privilege... exist) {
    return onColumns(PrivilegeSet.of(exist));
  }

  /** These can be given on columns. */
  public HouseRulesBuilder onColumns(long exist) {
    columns = exist;
    return this;
  }

  /** Only owners have these, because no statement gives them. */
  public HouseRulesBuilder neverGranted(Privilege... never) {
    return neverGranted(PrivilegeSet.of(never));
  }

  /** Only owners have these, because no statement gives them. */
  public HouseRulesBuilder neverGranted(long never) {
    neverGranted = never;
    return this;
  }

  /** Only a superuser holds these on guarded catalog tables. */
  public HouseRulesBuilder guarded(Privilege... only) {
    return guarded(PrivilegeSet.of(only));
  }

  /** Only a superuser holds these on guarded catalog tables. */
  public HouseRulesBuilder guarded(long only) {
    guarded = only;
    return this;
  }

  /** One more privilege that is needed on a container. */
  public HouseRulesBuilder gate(Gate gate) {
    gates.add(gate);
    return this;
  }

  /** The server can keep accounts to these; to nothing where nothing is said. */
  public HouseRulesBuilder accountLimits(Set<AccountLimit> limits) {
    accountLimits = limits;
    return this;
  }

  /** When a role given to somebody counts; all at once where nothing is said. */
  public HouseRulesBuilder roles(Activation when) {
    activation = when;
    return this;
  }

  /** What an owner holds; nothing where nothing is said. */
  public HouseRulesBuilder owners(Ownership hold) {
    ownership = hold;
    return this;
  }

  /** What a power opens. */
  public HouseRulesBuilder power(Power power, Map<NodeKind, Long> opens) {
    powers.put(power, Map.copyOf(opens));
    return this;
  }

  /** Columns that the server itself adds to every table. */
  public HouseRulesBuilder systemColumns(String... added) {
    systemColumns = Set.of(added);
    return this;
  }

  /** What names the server takes. */
  public HouseRulesBuilder names(NameRules rules) {
    names = rules;
    return this;
  }

  /** How exactly it reckons; without limits where nothing is said. */
  public HouseRulesBuilder numbers(Numbers exactness) {
    numbers = exactness;
    return this;
  }

  /** How somebody can become an administrator. */
  public HouseRulesBuilder waysUp(WaysUp ways) {
    waysUp = ways;
    return this;
  }

  /** That is so here. */
  public HouseRulesBuilder with(HouseFact... so) {
    facts.addAll(List.of(so));
    return this;
  }

  /**
   * The rules, complete.
   *
   * @throws IllegalStateException if nothing was said of names
   */
  public HouseRules build() {
    if (names == null) {
      throw new IllegalStateException("nothing is said of the names of " + kind);
    }
    return new HouseRules(
        kind,
        Map.copyOf(privileges),
        columns,
        neverGranted,
        guarded,
        List.copyOf(gates),
        activation,
        ownership,
        Map.copyOf(powers),
        systemColumns,
        accountLimits,
        names,
        numbers,
        waysUp,
        Collections.unmodifiableSet(facts.clone()));
  }
}
