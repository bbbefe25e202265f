package fiador.reviews;

import fiador.changes.Step;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;

/**
 * What a check found.
 *
 * @param asked the check's question
 * @param principal whom it is about, or -1
 * @param node what it is about, or -1
 * @param said what is the matter, without repeating whom or what it is about
 * @param users the users it concerns
 * @param path from a user or role to the role it comes through; empty where that says nothing
 * @param repair steps that mend it; empty where that needs a decision
 * @param waiver why it is accepted; null while it is not
 */
public record Finding(
    Asked asked,
    int principal,
    int node,
    Phrase said,
    IntArrayList users,
    IntArrayList path,
    List<Step> repair,
    Waiver waiver) {

  /** About a user or role. */
  static Finding about(Asked asked, int principal, Phrase said) {
    return new Finding(
        asked, principal, -1, said, new IntArrayList(), new IntArrayList(), List.of(), null);
  }

  /** About a thing. */
  static Finding at(Asked asked, int node, Phrase said) {
    return new Finding(
        asked, -1, node, said, new IntArrayList(), new IntArrayList(), List.of(), null);
  }

  /** About a user or role and a thing. */
  Finding on(int thing) {
    return new Finding(asked, principal, thing, said, users, path, repair, waiver);
  }

  /** With the users it concerns. */
  Finding concerns(IntArrayList whom) {
    return new Finding(asked, principal, node, said, whom, path, repair, waiver);
  }

  /** With the way it comes. */
  Finding through(IntArrayList way) {
    return new Finding(asked, principal, node, said, users, way, repair, waiver);
  }

  /** With what mends it; steps that no statement can do are left out. */
  Finding mendedBy(List<Step> steps) {
    List<Step> possible = steps.stream().filter(step -> step != null).toList();
    return new Finding(asked, principal, node, said, users, path, possible, waiver);
  }

  /** Accepted. */
  Finding waived(Waiver by) {
    return new Finding(asked, principal, node, said, users, path, repair, by);
  }
}
