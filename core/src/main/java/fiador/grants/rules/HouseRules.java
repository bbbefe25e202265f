package fiador.grants.rules;

import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * How one kind of server, in one version, works privileges out. A plain record of facts: nothing
 * else asks which server this is. Built by name with {@link HouseRulesBuilder}, in one file a
 * server.
 *
 * @param kind the kind of server, as a charter names it
 * @param privileges the privileges that exist on each kind of node
 * @param columnPrivileges the privileges that can be given on columns
 * @param neverGranted privileges that only owners have, because no statement gives them
 * @param guarded privileges on guarded catalog tables that only a superuser holds
 * @param gates what must be held on containers
 * @param activation when a role given to somebody counts
 * @param ownership what an owner holds
 * @param powers what each power but superuser opens, by kind of node
 * @param systemColumns names of columns that the server itself adds to every table
 * @param accountLimits what it can keep accounts to
 * @param names what names the server takes
 * @param numbers how exactly it reckons
 * @param waysUp how somebody can become an administrator
 * @param facts all else that is so here
 */
public record HouseRules(
    String kind,
    Map<NodeKind, Long> privileges,
    long columnPrivileges,
    long neverGranted,
    long guarded,
    List<Gate> gates,
    Activation activation,
    Ownership ownership,
    Map<Power, Map<NodeKind, Long>> powers,
    Set<String> systemColumns,
    Set<AccountLimit> accountLimits,
    NameRules names,
    Numbers numbers,
    WaysUp waysUp,
    Set<HouseFact> facts) {
  /** Where the Gregorian calendar took over from the Julian one. */
  private static final Pattern SKIPPED_DAYS = Pattern.compile("'1582-10-(0[5-9]|1[0-4])");

  /** Whether that is so on this kind of server. */
  public boolean has(HouseFact fact) {
    return facts.contains(fact);
  }

  /** All privileges that exist on that kind of node here. */
  public long privilegesOn(NodeKind node) {
    return privileges.getOrDefault(node, 0L);
  }

  /** All privileges that can be given on that kind of node here. */
  public long grantableOn(NodeKind node) {
    return privilegesOn(node) & ~neverGranted;
  }

  /** What a power other than superuser opens on that kind of node. */
  public long opened(Power power, NodeKind node) {
    return powers.getOrDefault(power, Map.of()).getOrDefault(node, 0L);
  }

  /** Whether it matters each time what whoever a view reads for may read under it. */
  public boolean looksUnderViews() {
    return has(HouseFact.CHECKS_UNDER_VIEWS) || gates.stream().anyMatch(Gate::sealedOnly);
  }

  /** What lets people into a sealed container of that kind. */
  public long letsIntoSealed(NodeKind container) {
    long bits = 0;
    for (Gate gate : gates) {
      bits |= gate.sealedOnly() && gate.container() == container ? gate.privilege().bit() : 0;
    }
    return bits;
  }

  /** A name as the server would store it if it were written without quotes. */
  public String fold(String name) {
    return names.folding().of(name);
  }

  /** Why a user or role cannot have that name here, or null if it can. */
  public @Nullable String refusesName(String name) {
    return names.refusal(kind, name);
  }

  /**
   * Whether a user or role of that name, without a host, is the server's own, and no matter of any
   * charter.
   */
  public boolean isOwn(String name) {
    return names.isOwn(name);
  }

  /** Whether a predicate names a day that the server does not know. */
  public boolean lacksDates(String predicate) {
    return has(HouseFact.SKIPS_JULIAN_DAYS) && SKIPPED_DAYS.matcher(predicate).find();
  }

  /** Why no view can show a table with these columns, or null if one can. */
  public @Nullable String refusesSafeView(List<String> columns) {
    boolean quotes = columns.stream().anyMatch(column -> column.indexOf('"') >= 0);
    return quotes && has(HouseFact.NO_VIEWS_OF_QUOTES)
        ? kind + " makes no views of columns that have a quote in their name"
        : null;
  }
}
