package fiador.findings.check;

import java.util.Set;

/**
 * From where on something is a finding.
 *
 * @param chainLength roles in a row before a chain is called long
 * @param coveredShare percent of a schema's tables from which on the others look forgotten
 * @param unusedDays days without use after which an account is called unused
 * @param rolesPerPerson roles given to one person directly before it is called many
 * @param secretDays days after which a secret is called old
 * @param refusedTimes times something is refused, or things that are, before it is called often
 * @param off ids of checks that are not made
 */
public record Limits(
    int chainLength,
    int coveredShare,
    int unusedDays,
    int rolesPerPerson,
    int secretDays,
    int refusedTimes,
    Set<String> off) {
  /** What holds where a charter says nothing. */
  public static final Limits USUAL = new Limits(5, 60, 90, 12, 365, 5, Set.of());
}
