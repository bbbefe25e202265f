package fiador.changes.steps;

import fiador.estate.NodeKind;
import fiador.grants.Membership;
import fiador.policies.SafeColumn;
import java.time.Instant;
import java.util.List;

/** One thing to do on a server, by names as the server stores them. */
public sealed interface Step {

  /** What takes this step back. */
  Step inverse();

  /** Whether it leaves everybody what he has, so that there is nothing to take back. */
  default boolean takesOver() {
    return this instanceof TakeOver || this instanceof LetIn in && in.taking().takesOver();
  }

  /** The users and roles that have to be there. */
  default List<String> principals() {
    return List.of();
  }

  /** The thing that has to be there; null for none. */
  default On on() {
    return null;
  }

  /** The columns of it that have to be there. */
  default List<String> columnNames() {
    return List.of();
  }

  /**
   * A name: the database where the server has such a level, else null; then schema and object.
   *
   * @param procedure whether it is a routine that is called, where the server tells these apart
   */
  record On(NodeKind kind, String database, List<String> parts, boolean procedure) {
    /** Anything but such a routine. */
    public On(NodeKind kind, String database, List<String> parts) {
      this(kind, database, parts, false);
    }
  }

  /** Creates a role. */
  record CreateRole(String role) implements Step {
    @Override
    public Step inverse() {
      return new DropRole(role);
    }
  }

  /** Drops a role. */
  record DropRole(String role) implements Step {
    @Override
    public List<String> principals() {
      return List.of(role);
    }

    @Override
    public Step inverse() {
      return new CreateRole(role);
    }
  }

  /** Creates a user; its secret is asked for when the step is carried out. */
  record CreateUser(String user) implements Step {
    @Override
    public Step inverse() {
      return new DropUser(user);
    }
  }

  /** Drops a user. Taking it back needs a new secret: the old one is gone. */
  record DropUser(String user) implements Step {
    @Override
    public List<String> principals() {
      return List.of(user);
    }

    @Override
    public Step inverse() {
      return new CreateUser(user);
    }
  }

  /**
   * Lets a user log in, or no longer.
   *
   * @param enabled whether it can from now on
   */
  record LetLogIn(String user, boolean enabled) implements Step {
    @Override
    public List<String> principals() {
      return List.of(user);
    }

    @Override
    public Step inverse() {
      return new LetLogIn(user, !enabled);
    }
  }

  /**
   * Sets until when a user can log in.
   *
   * @param before until when so far, null for ever
   * @param until until when, null for ever
   */
  record LimitInTime(String user, Instant before, Instant until) implements Step {
    @Override
    public List<String> principals() {
      return List.of(user);
    }

    @Override
    public Step inverse() {
      return new LimitInTime(user, until, before);
    }
  }

  /**
   * Gives a role, or gives it otherwise than before.
   *
   * @param before how the member holds it so far, or null
   * @param spelledOut whether the server takes inherit and set from the statement, and else from
   *     the member, which may have other ideas
   */
  record GiveRole(String role, String member, Membership how, Membership before, boolean spelledOut)
      implements Step {
    /** Gives a role plainly to somebody who does not hold it. */
    public GiveRole(String role, String member) {
      this(role, member, Membership.PLAIN, null, false);
    }

    @Override
    public List<String> principals() {
      return List.of(role, member);
    }

    @Override
    public Step inverse() {
      return before == null
          ? new TakeRole(role, member, how, null, spelledOut)
          : new GiveRole(role, member, before, how, spelledOut);
    }
  }

  /**
   * Takes a role.
   *
   * @param before how the member held it
   * @param grantor who gave it, where only that one can take it; else null
   * @param spelledOut as for {@link GiveRole}
   */
  record TakeRole(String role, String member, Membership before, String grantor, boolean spelledOut)
      implements Step {
    @Override
    public List<String> principals() {
      return grantor == null ? List.of(role, member) : List.of(role, member, grantor);
    }

    @Override
    public Step inverse() {
      return new GiveRole(role, member, before, null, spelledOut);
    }
  }

  /**
   * Gives anew, as whoever carries it out, what somebody else had given, and then takes that one's
   * away. Nobody holds anything else than before, so there is nothing to take back.
   *
   * @param given a role or grant
   * @param taken the same from its old grantor
   */
  record TakeOver(Step given, Step taken) implements Step {
    @Override
    public List<String> principals() {
      return taken.principals();
    }

    @Override
    public On on() {
      return taken.on();
    }

    @Override
    public List<String> columnNames() {
      return taken.columnNames();
    }

    @Override
    public Step inverse() {
      return this;
    }
  }

  /**
   * Takes what only its giver can take, where he has lost the way into the schema: he is let in for
   * that one statement. Only for servers on which others see nothing of what is in between.
   *
   * @param taking takes a grant, or takes it over
   * @param schema where he is let in
   */
  record LetIn(Step taking, On schema, String giver) implements Step {
    @Override
    public List<String> principals() {
      return taking.principals();
    }

    @Override
    public On on() {
      return taking.on();
    }

    @Override
    public List<String> columnNames() {
      return taking.columnNames();
    }

    @Override
    public Step inverse() {
      return taking.inverse();
    }
  }

  /**
   * Makes a role the one that is on at login, where only one can be.
   *
   * @param role which, or null for none
   * @param before which so far, or null
   */
  record DefaultRole(String member, String role, String before) implements Step {
    @Override
    public List<String> principals() {
      return role == null ? List.of(member) : List.of(member, role);
    }

    @Override
    public Step inverse() {
      return new DefaultRole(member, before, role);
    }
  }

  /**
   * Grants.
   *
   * @param privileges a set of privileges
   * @param columns the columns, empty for the whole
   */
  record Grant(long privileges, On on, List<String> columns, String grantee, boolean grantOption)
      implements Step {
    @Override
    public List<String> principals() {
      return List.of(grantee);
    }

    @Override
    public List<String> columnNames() {
      return columns;
    }

    @Override
    public Step inverse() {
      return new Revoke(privileges, on, columns, grantee, grantOption, null);
    }
  }

  /**
   * Revokes.
   *
   * @param withOption whether the right to grant on goes too
   * @param grantor who gave it, where only that one can take it; else null
   */
  record Revoke(
      long privileges,
      On on,
      List<String> columns,
      String grantee,
      boolean withOption,
      String grantor)
      implements Step {
    @Override
    public List<String> principals() {
      return grantor == null ? List.of(grantee) : List.of(grantee, grantor);
    }

    @Override
    public List<String> columnNames() {
      return columns;
    }

    @Override
    public Step inverse() {
      return new Grant(privileges, on, columns, grantee, withOption);
    }
  }

  /** Adds the right to grant on to what is held already. */
  record AddOption(long privileges, On on, List<String> columns, String grantee) implements Step {
    @Override
    public List<String> principals() {
      return List.of(grantee);
    }

    @Override
    public List<String> columnNames() {
      return columns;
    }

    @Override
    public Step inverse() {
      return new TakeOption(privileges, on, columns, grantee, null);
    }
  }

  /** Takes the right to grant on and leaves the privileges. */
  record TakeOption(long privileges, On on, List<String> columns, String grantee, String grantor)
      implements Step {
    @Override
    public List<String> principals() {
      return grantor == null ? List.of(grantee) : List.of(grantee, grantor);
    }

    @Override
    public List<String> columnNames() {
      return columns;
    }

    @Override
    public Step inverse() {
      return new AddOption(privileges, on, columns, grantee);
    }
  }

  /**
   * Grants on what will be created.
   *
   * @param creator whose objects
   * @param schema in which schema
   * @param kind the kind of object
   */
  record GrantLater(
      String creator,
      On schema,
      NodeKind kind,
      long privileges,
      String grantee,
      boolean grantOption)
      implements Step {
    @Override
    public List<String> principals() {
      return List.of(creator, grantee);
    }

    @Override
    public On on() {
      return schema;
    }

    @Override
    public Step inverse() {
      return new RevokeLater(creator, schema, kind, privileges, grantee, grantOption);
    }
  }

  /**
   * Takes back what was granted on what will be created.
   *
   * @param withOption whether it could be granted on
   */
  record RevokeLater(
      String creator, On schema, NodeKind kind, long privileges, String grantee, boolean withOption)
      implements Step {
    @Override
    public List<String> principals() {
      return List.of(creator, grantee);
    }

    @Override
    public On on() {
      return schema;
    }

    @Override
    public Step inverse() {
      return new GrantLater(creator, schema, kind, privileges, grantee, withOption);
    }
  }

  /**
   * Gives something another owner.
   *
   * @param before who owned it
   */
  record ChangeOwner(On on, String owner, String before) implements Step {
    @Override
    public List<String> principals() {
      return List.of(owner);
    }

    @Override
    public Step inverse() {
      return new ChangeOwner(on, before, owner);
    }
  }

  /**
   * Makes the guarded schema in which attributes of users and the policies themselves are kept, or
   * drops it with all that is in it.
   *
   * @param database in which database, null where the server has no such level
   */
  record Guard(String database, boolean make) implements Step {
    @Override
    public Step inverse() {
      return new Guard(database, !make);
    }
  }

  /**
   * Sets what is known of a user for policies.
   *
   * @param user the user as policies find it on the server
   * @param before the values so far
   * @param after the values from now on
   */
  record SetAttribute(
      String database, String user, String attribute, List<String> before, List<String> after)
      implements Step {
    @Override
    public Step inverse() {
      return new SetAttribute(database, user, attribute, after, before);
    }
  }

  /**
   * A lookup table as policies read it: what it says of the user who asks.
   *
   * @param key the column with names of users
   * @param value the column with what holds for them
   */
  record LookupTable(String name, On table, SafeColumn key, SafeColumn value) {}

  /** Makes a lookup table readable for policies, or otherwise than before; null for not at all. */
  record DefineLookup(String database, LookupTable before, LookupTable after) implements Step {
    @Override
    public On on() {
      return (after == null ? before : after).table();
    }

    @Override
    public Step inverse() {
      return new DefineLookup(database, after, before);
    }
  }

  /** Makes, changes or drops a view that shows a table safely; null for none. */
  record ShowSafely(SafeView before, SafeView after) implements Step {
    @Override
    public On on() {
      return after == null ? before.view() : after.table();
    }

    @Override
    public Step inverse() {
      return new ShowSafely(after, before);
    }
  }

  /**
   * Filters the rows of a table on a server that does so itself.
   *
   * @param columns the table's columns
   * @param before the row policies so far, as {@link fiador.policies.SightText} writes them; empty
   *     for none
   * @param after those from now on
   */
  record FilterRows(On table, List<SafeColumn> columns, String before, String after)
      implements Step {
    @Override
    public On on() {
      return table;
    }

    @Override
    public Step inverse() {
      return new FilterRows(table, columns, after, before);
    }
  }
}
