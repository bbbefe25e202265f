package fiador.findings;

import fiador.changes.wanted.Accounts;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.findings.check.Expected;
import fiador.findings.check.Limits;
import fiador.findings.check.Waiver;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Makes what a charter expects, thing by thing. */
public final class Expecting {
  private String umbrella = null;
  private Map<String, String> names = Map.of();
  private Map<String, String> purposes = Map.of();
  private Map<String, String> kinds = Map.of();
  private Map<String, Instant> ends = Map.of();
  private Wanted demanded = Wanted.NOTHING;
  private Map<String, List<String>> duties = Map.of();
  private List<Seal> seals = List.of();
  private List<Waiver> waivers = List.of();
  private Set<String> ours = Set.of();
  private Accounts accounts = Accounts.SAME;
  private Limits limits = Limits.USUAL;

  public static Expecting nothing() {
    return new Expecting();
  }

  Expecting umbrella(String with) {
    this.umbrella = with;
    return this;
  }

  Expecting names(Map<String, String> with) {
    this.names = with;
    return this;
  }

  Expecting purposes(Map<String, String> with) {
    this.purposes = with;
    return this;
  }

  Expecting ends(Map<String, Instant> with) {
    this.ends = with;
    return this;
  }

  Expecting demanded(Wanted with) {
    this.demanded = with;
    return this;
  }

  Expecting duties(Map<String, List<String>> with) {
    this.duties = with;
    return this;
  }

  public Expecting seals(List<Seal> with) {
    this.seals = with;
    return this;
  }

  Expecting waivers(List<Waiver> with) {
    this.waivers = with;
    return this;
  }

  Expecting ours(Set<String> with) {
    this.ours = with;
    return this;
  }

  Expecting limits(Limits with) {
    this.limits = with;
    return this;
  }

  public Expecting accounts(Accounts with) {
    this.accounts = with;
    return this;
  }

  public Expected expected() {
    return new Expected(
        umbrella, names, purposes, kinds, ends, demanded, duties, seals, waivers, ours, limits,
        accounts);
  }
}
