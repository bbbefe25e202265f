package fiador.findings.check;

import fiador.changes.steps.Step;
import fiador.estate.None;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Supplier;

/**
 * What a check found.
 *
 * @param asked the check's question
 * @param principal whom it is about, or -1
 * @param node what it is about, or -1
 * @param said what is the matter, without repeating whom or what it is about
 * @param users the users it concerns
 * @param path from a user or role to the role it comes through; empty where that says nothing
 * @param mends tells the steps that mend it; none where that needs a decision
 * @param apart what tells it from what the same check says of the same user or thing; empty where
 *     that is said once
 * @param waiver why it is accepted; null while it is not
 */
public record Finding(
    Asked asked,
    int principal,
    int node,
    Phrase said,
    IntArrayList users,
    IntArrayList path,
    Supplier<List<Step>> mends,
    String apart,
    Waiver waiver) {

  /** About a user or role. */
  public static Finding about(Asked asked, int principal, Phrase said) {
    return new Finding(
        asked,
        principal,
        None.NODE,
        said,
        new IntArrayList(),
        new IntArrayList(),
        List::of,
        "",
        null);
  }

  /** About a thing. */
  public static Finding at(Asked asked, int node, Phrase said) {
    return new Finding(
        asked,
        None.PRINCIPAL,
        node,
        said,
        new IntArrayList(),
        new IntArrayList(),
        List::of,
        "",
        null);
  }

  /** About a user or role and a thing. */
  public Finding on(int thing) {
    return new Finding(asked, principal, thing, said, users, path, mends, apart, waiver);
  }

  /** With the users it concerns. */
  public Finding concerns(IntArrayList whom) {
    return new Finding(asked, principal, node, said, whom, path, mends, apart, waiver);
  }

  /** With the way it comes. */
  public Finding through(IntArrayList way) {
    return new Finding(asked, principal, node, said, users, way, mends, apart, waiver);
  }

  /** With what mends it; steps that no statement can do are left out. */
  public Finding mendedBy(Supplier<List<Step>> steps) {
    return new Finding(asked, principal, node, said, users, path, steps, apart, waiver);
  }

  /** As the other, where the steps are few. */
  public Finding mendedBy(List<Step> steps) {
    return mendedBy(() -> steps);
  }

  /** The steps that mend it; empty where that needs a decision. */
  public List<Step> repair() {
    return mends.get().stream().filter(step -> step != null).toList();
  }

  /** Told from others of the same check about the same; by names, which stay, not by counts. */
  public Finding apart(String by) {
    return new Finding(asked, principal, node, said, users, path, mends, by, waiver);
  }

  /** Accepted. */
  public Finding waived(Waiver by) {
    return new Finding(asked, principal, node, said, users, path, mends, apart, by);
  }
}
