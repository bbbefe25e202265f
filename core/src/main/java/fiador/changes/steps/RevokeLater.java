package fiador.changes.steps;

import fiador.estate.NodeKind;

/**
 * Takes back what was granted on what will be created.
 *
 * @param withOption whether it could be granted on
 */
public record RevokeLater(
    String creator, On schema, NodeKind kind, long privileges, String grantee, boolean withOption)
    implements Step {
  @Override
  public Step inverse() {
    return new GrantLater(creator, schema, kind, privileges, grantee, withOption);
  }

  @Override
  public About about() {
    return About.thing(Turn.TAKES, schema, creator, grantee);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.revokeLater(this);
  }
}
