package fiador.changes;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.util.List;
import java.util.Set;

/**
 * What a charter demands of a server.
 *
 * @param roles the roles there must be
 * @param users the users there must be
 * @param memberships who must hold which role
 * @param grants who must be given what
 */
public record Wanted(
    List<Principal> roles, List<Principal> users, List<Member> memberships, List<Grant> grants) {

  /**
   * A place in a file, for messages.
   *
   * @param file as the user named it
   * @param line counted from 1
   * @param column counted from 1
   */
  public record Place(String file, int line, int column) {
    @Override
    public String toString() {
      return file + ":" + line + ":" + column;
    }
  }

  /** A role or user by the name the charter gives it. */
  public record Principal(String name, Place place) {}

  /** A role for a member. */
  public record Member(String member, String role, Place place) {}

  /**
   * A privilege, on some columns only or on the whole.
   *
   * @param privilege what; null for all that exist
   * @param columns the columns, empty for the whole
   */
  public record Action(Privilege privilege, List<String> columns) {}

  /** What a grant is on. */
  public sealed interface Target {
    /** As it stands in the sentence. */
    String text();
  }

  /**
   * One thing.
   *
   * @param kind what it is said to be, or null
   * @param name its dotted name
   */
  public record Single(NodeKind kind, String name) implements Target {
    @Override
    public String text() {
      return kind == null ? name : kind.text() + " " + name;
    }
  }

  /**
   * All things of some kinds in a container.
   *
   * @param kinds which kinds
   * @param container its dotted name
   */
  public record Every(Set<NodeKind> kinds, String container) implements Target {
    @Override
    public String text() {
      List<String> words = kinds.stream().sorted().map(NodeKind::text).toList();
      return "every " + String.join(" and ", words) + " in " + container;
    }
  }

  /**
   * A grant.
   *
   * @param grantee a role of the charter
   * @param actions what
   * @param target on what
   * @param now whether what exists is meant
   * @param later whether what will be created is meant
   * @param grantOption whether it may be granted on
   * @param place where the charter says so
   */
  public record Grant(
      String grantee,
      List<Action> actions,
      Target target,
      boolean now,
      boolean later,
      boolean grantOption,
      Place place) {}
}
