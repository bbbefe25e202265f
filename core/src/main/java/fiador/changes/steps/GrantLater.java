package fiador.changes.steps;

import fiador.estate.NodeKind;

/**
 * Grants on what will be created.
 *
 * @param creator whose objects
 * @param schema in which schema
 * @param kind the kind of object
 */
public record GrantLater(
    String creator, On schema, NodeKind kind, long privileges, String grantee, boolean grantOption)
    implements Step {
  @Override
  public Step inverse() {
    return new RevokeLater(creator, schema, kind, privileges, grantee, grantOption);
  }

  @Override
  public About about() {
    return About.thing(Turn.GIVES, schema, creator, grantee);
  }

  @Override
  public <T> T match(StepCases<T> cases) {
    return cases.grantLater(this);
  }
}
