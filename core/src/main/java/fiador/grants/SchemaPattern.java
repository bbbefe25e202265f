package fiador.grants;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.rules.HouseRules;
import java.util.Arrays;

/**
 * A grant on all schemas whose name a pattern matches, present and later ones.
 *
 * @param grantee a principal
 * @param pattern with {@code %} and {@code _} as wildcards and a backslash before literal ones
 * @param privileges the privileges
 * @param grantable those that may be granted on; all of them where the right to grant is a matter
 *     of the place and not of the privilege
 */
public record SchemaPattern(int grantee, String pattern, long privileges, long grantable) {

  /** The schemas of a server that it matches. Cost: the schemas. */
  public int[] matches(Tree tree) {
    Wildcard wildcard = new Wildcard(pattern);
    return Arrays.stream(tree.children().run(0))
        .filter(schema -> wildcard.matches(tree.name(schema)))
        .toArray();
  }

  /** What it gives on a schema. */
  Terms terms(HouseRules rules, int covers, int index) {
    long possible = rules.privilegesOn(NodeKind.SCHEMA);
    return new Terms(
        privileges & possible, grantable & possible, covers, Terms.FOREVER, index, Terms.NO_LABEL);
  }

  /**
   * Whether it means that one schema as a statement of ours would name it. A name with an
   * underscore that nobody escaped is none: there {@code _} stands for any character, and the
   * server takes such a grant back only by the text it was given with.
   */
  public boolean isOf(String schema) {
    return pattern.equals(of(schema));
  }

  /** The pattern that matches exactly the schema of that name. */
  public static String of(String schema) {
    return schema.replace("\\", "\\\\").replace("_", "\\_").replace("%", "\\%");
  }
}
