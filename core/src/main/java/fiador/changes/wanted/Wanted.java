package fiador.changes.wanted;

import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Membership;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a charter demands of a server.
 *
 * @param roles the roles there must be
 * @param users the users there must be
 * @param memberships who must hold which role
 * @param grants who must be given what
 * @param refused what members of a role may not do, whatever else they hold
 * @param owned who must own what
 * @param governs what the charter decides; all else is left alone
 * @param sight what it demands of rows and columns
 */
public record Wanted(
    List<Principal> roles,
    List<Principal> users,
    List<Member> memberships,
    List<Grant> grants,
    List<Grant> refused,
    List<Owned> owned,
    Governs governs,
    WantedSight sight) {
  /** The grantee that is everybody; no role or user can be called so. */
  public static final String EVERYBODY = "PUBLIC";

  /** Demands nothing. */
  public static final Wanted NOTHING = new Wanted(List.of(), List.of(), List.of(), List.of());

  /** Another choice of memberships and grants, all else the same. */
  private Wanted with(List<Member> members, List<Grant> given) {
    return new Wanted(roles, users, members, given, refused, owned, governs, sight);
  }

  /** The same with other memberships. */
  public Wanted withMemberships(List<Member> others) {
    return with(others, grants);
  }

  /** What is wanted at a moment. */
  public Wanted at(Instant now) {
    return with(
        memberships.stream().filter(each -> each.when().holds(now)).toList(),
        grants.stream().filter(each -> each.when().holds(now)).toList());
  }

  /** What members of a role may not do at a moment. */
  public List<Grant> refusedAt(Instant now) {
    return refused.stream().filter(each -> each.when().holds(now)).toList();
  }

  /** What is wanted then or was before. */
  public Wanted begunBy(Instant now) {
    return with(
        memberships.stream().filter(each -> !each.when().isAhead(now)).toList(),
        grants.stream().filter(each -> !each.when().isAhead(now)).toList());
  }

  /** What was wanted for a time that is over; roles and users are the same. */
  public Wanted endedBy(Instant now) {
    return with(
        memberships.stream().filter(each -> each.when().isOver(now)).toList(),
        grants.stream().filter(each -> each.when().isOver(now)).toList());
  }

  /** Demands that take nothing away and change no owner. */
  public Wanted(
      List<Principal> roles, List<Principal> users, List<Member> memberships, List<Grant> grants) {
    this(
        roles, users, memberships, grants, List.of(), List.of(), Governs.NOTHING, WantedSight.NONE);
  }

  /**
   * What a charter decides: what lies inside and is not demanded is taken away.
   *
   * @param schemas names of schemas; {@code *} stands for any letters, and alone for the whole
   *     server
   * @param roles names of roles
   * @param users names of users
   * @param everybody whether what everybody has in those schemas, and on the databases they are in
   */
  public record Governs(
      List<String> schemas, List<String> roles, List<String> users, boolean everybody) {
    /** Without what everybody has. */
    public Governs(List<String> schemas, List<String> roles, List<String> users) {
      this(schemas, roles, users, false);
    }

    /** Nothing is decided, so nothing is taken away. */
    public static final Governs NOTHING = new Governs(List.of(), List.of(), List.of());
  }

  /**
   * An owner.
   *
   * @param owner a role of the charter
   * @param target what it owns
   * @param inside whether everything in it is meant too
   */
  public record Owned(String owner, Single target, boolean inside, Place place) {}

  /**
   * How a user logs in.
   *
   * @param disabled whether it cannot
   * @param until the moment from which it cannot, or null
   * @param hosts from where, on servers that tell accounts apart by that; empty for anywhere
   * @param limits all that the server is to keep it to; null where the charter says nothing of it
   */
  public record LoginTerms(
      boolean disabled,
      @Nullable Instant until,
      List<String> hosts,
      @Nullable Map<AccountLimit, Integer> limits) {
    /** One of whose limits nothing is said. */
    public LoginTerms(boolean disabled, @Nullable Instant until, List<String> hosts) {
      this(disabled, until, hosts, null);
    }

    /** At any time, from anywhere. */
    public static final LoginTerms PLAIN = new LoginTerms(false, null, List.of());

    /** Whether the account's time is over. */
    public boolean isOver(Instant now) {
      return until != null && !now.isBefore(until);
    }
  }

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

  /**
   * A role or user by the name the charter gives it.
   *
   * @param knownIn the only database it is to be known in; null for the whole server
   * @param was what it was called before; null where it always was called so
   * @param powers the powers it is to have; null where the charter says nothing about them
   */
  public record Principal(
      String name,
      LoginTerms login,
      @Nullable String knownIn,
      @Nullable String was,
      @Nullable Set<Power> powers,
      Place place) {
    /** One of whose powers nothing is said. */
    public Principal(
        String name,
        LoginTerms login,
        @Nullable String knownIn,
        @Nullable String was,
        Place place) {
      this(name, login, knownIn, was, null, place);
    }

    /** The same by its former name. */
    public Principal before() {
      return new Principal(Objects.requireNonNull(was), login, knownIn, null, powers, place);
    }

    /** One that the whole server knows, by the name it always had. */
    public Principal(String name, LoginTerms login, Place place) {
      this(name, login, null, null, place);
    }

    /** One with nothing special about it. */
    public Principal(String name, Place place) {
      this(name, LoginTerms.PLAIN, place);
    }
  }

  /**
   * A role for a member.
   *
   * @param when when the member is to hold it
   */
  public record Member(String member, String role, Membership how, Period when, Place place) {
    /** At any time. */
    public Member(String member, String role, Membership how, Place place) {
      this(member, role, how, Period.ALWAYS, place);
    }

    /** A plain membership. */
    public Member(String member, String role, Place place) {
      this(member, role, Membership.PLAIN, place);
    }

    /** The same but held otherwise. */
    public Member with(Membership otherwise) {
      return new Member(member, role, otherwise, when, place);
    }

    /** The same at another time. */
    public Member at(Period other) {
      return new Member(member, role, how, other, place);
    }
  }

  /**
   * A privilege, on some columns only or on the whole.
   *
   * @param privilege what; null for all that exist
   * @param columns the columns, empty for the whole
   * @param except whether all but these columns are meant
   */
  public record Action(Privilege privilege, List<String> columns, boolean except) {
    /** On exactly these columns. */
    public Action(Privilege privilege, List<String> columns) {
      this(privilege, columns, false);
    }

    /** As it stands in the sentence. */
    public String text() {
      String on = columns.isEmpty() ? "" : " (" + String.join(", ", columns) + ")";
      return (privilege == null ? "all" : privilege.text()) + (except ? " except" : "") + on;
    }
  }

  /** What a grant is on. */
  public sealed interface Target {
    /** As it stands in the sentence. */
    String text();
  }

  /**
   * One thing.
   *
   * @param kind what it is said to be, or null
   * @param name its dotted name; empty for the server as a whole
   */
  public record Single(NodeKind kind, String name) implements Target {
    @Override
    public String text() {
      return kind == null ? name : name.isEmpty() ? kind.text() : kind.text() + " " + name;
    }
  }

  /**
   * All things of some kinds in a container.
   *
   * @param kinds which kinds
   * @param container its dotted name; null for the whole server, where there is a label
   * @param label the label those carry; null for all
   */
  public record Every(Set<NodeKind> kinds, String container, String label) implements Target {
    /** Whatever labels they carry. */
    public Every(Set<NodeKind> kinds, String container) {
      this(kinds, container, null);
    }

    @Override
    public String text() {
      List<String> words = kinds.stream().sorted().map(NodeKind::text).toList();
      String labelled = label == null ? "" : " labelled " + label;
      return "every " + String.join(" and ", words) + labelled + " in " + container;
    }
  }

  /**
   * A grant.
   *
   * @param grantee a role or user of the charter, or {@link #EVERYBODY}
   * @param actions what
   * @param target on what
   * @param now whether what exists is meant
   * @param later whether what will be created is meant
   * @param grantOption whether it may be granted on
   * @param madeBy of what will be created only what that role or user creates; null for what
   *     anybody creates who owns something there now
   * @param when when it is to be given
   * @param place where the charter says so
   */
  public record Grant(
      String grantee,
      List<Action> actions,
      Target target,
      boolean now,
      boolean later,
      boolean grantOption,
      String madeBy,
      Period when,
      Place place) {
    /** Whoever creates what comes later, at any time. */
    public Grant(
        String grantee,
        List<Action> actions,
        Target target,
        boolean now,
        boolean later,
        boolean grantOption,
        Place place) {
      this(grantee, actions, target, now, later, grantOption, null, Period.ALWAYS, place);
    }

    /** What is given, in a charter's words, without when and to whom. */
    public String text() {
      List<String> said = actions.stream().map(Action::text).toList();
      return String.join(", ", said) + " on " + target.text();
    }

    /** The same with the right to grant it on, or without. */
    public Grant with(boolean option) {
      return new Grant(grantee, actions, target, now, later, option, madeBy, when, place);
    }

    /** The same at another time. */
    public Grant at(Period other) {
      return new Grant(grantee, actions, target, now, later, grantOption, madeBy, other, place);
    }
  }
}
