package fiador.grants.rules;

/**
 * What is so on one kind of server and not on another, by name. Whoever needs to know asks for the
 * one fact that matters, never for the server, and never for another fact that happens to go with
 * it. A new fact is one line here and one in each server's file.
 */
public enum HouseFact {
  // accounts
  /** Accounts of one name are told apart by the host they come from. */
  ACCOUNTS_BY_HOST,
  /** A user can be held like a role. */
  USERS_ARE_ROLES,
  /** A user or role can be known in one database only. */
  LOCAL_PRINCIPALS,
  /** An account can be kept from logging in and let in again. */
  LOCKS_ACCOUNTS,
  /** The server itself keeps a user from logging in after a day. */
  ENDS_ACCOUNTS,
  /** What ends on that day is the secret: other ways to log in stay open. */
  ONLY_SECRETS_END,

  /** Users and roles have powers of their own, which a statement sets. */
  SETS_POWERS,
  /** A user can be given another name. */
  RENAMES_USERS,
  /** A role can be given another name. */
  RENAMES_ROLES,
  /** What an account has made goes on under its old name when it is given another. */
  MAKERS_BY_NAME,

  // roles
  /** A member of a superuser is one too, without switching. */
  SUPERUSER_INHERITED,
  /** A superuser counts as a member of every role. */
  SUPERUSERS_HOLD_ALL_ROLES,
  /** Everybody can be given a role. */
  EVERYBODY_HOLDS_ROLES,
  /** A role that everybody was given counts after switching to it. */
  EVERYBODY_SWITCHES,
  /** Giving a role to somebody who holds it through another does nothing. */
  ROLES_HELD_ONCE,
  /** Roles can hold each other in a circle. */
  ROLES_IN_CIRCLES,
  /** Names of users and roles are folded even where they stand in quotes. */
  FOLDS_QUOTED_PRINCIPALS,
  /** A statement makes one of an account's roles the one that is on at login. */
  DEFAULT_ROLES,
  /**
   * Who manages roles may give themselves any role but a superuser's, and set the secret of any
   * user but theirs.
   */
  MANAGERS_TAKE_ANY_ROLE,
  /**
   * A membership is its grantor's: one role can be held several times by one member, from several
   * hands, and what was given on rests on what was given.
   */
  MEMBERSHIPS_BY_GRANTOR,

  // grants
  /** There are denials, which beat every grant. */
  DENIALS,
  /** The server itself ends memberships and grants in time. */
  ENFORCES_TIME,
  /** Grants for objects still to be created exist. */
  LATER_GRANTS,
  /** Everybody may run a routine that is created, unless its creator has said otherwise. */
  ROUTINES_OPEN_TO_ALL,
  /**
   * A grant is its grantor's: only they can take it, and what they were given cannot be taken while
   * what they gave on is there.
   */
  GRANTORS_COUNT,
  /** A grant on a schema, or on what holds schemas, reaches all things in it, now and later. */
  SCHEMA_GRANTS_REACH_DOWN,
  /** A denial is about the very thing it names, and reaches nothing in it. */
  DENIALS_STAY,
  /** A grant on a schema is one on all schemas whose names fit a pattern. */
  SCHEMA_GRANTS_BY_PATTERN,
  /**
   * What was granted on a table stays with its name and its schema: who moves a table takes it to
   * where they have other rights.
   */
  RIGHTS_BY_NAME,
  /** What is given can come with the right to give it on. */
  GRANT_OPTIONS,
  /** What a role owns is open to its members, and none of them can grant on it. */
  OWNING_ROLES_GRANT_NOTHING,
  /** What a power opens can be granted on by who has it. */
  POWERS_GRANT_ON,
  /** Privileges are given to roles only. */
  ROLES_ONLY,
  /** Everybody can be given the right to grant on. */
  OPTION_FOR_EVERYBODY,
  /** The right to grant on is one for a place, whatever privileges are held there. */
  OPTION_BY_PLACE,
  /**
   * For one schema, table or routine only the row that fits best counts: one for the account, one
   * for its role, one for PUBLIC. Giving can take away, and taking can give.
   */
  ONE_ROW_COUNTS,
  /**
   * Taking a privilege from columns leaves what the same grantee has on the whole, and a grant on
   * columns is there beside it.
   */
  COLUMNS_APART,
  /** A change of many statements takes effect as one, with no moment in between. */
  CHANGES_IN_ONE_GO,
  /** A thing can be given another owner. */
  CHANGES_OWNERS,

  // views and rows
  /**
   * Reading a view needs, each time, that its owner (or the asker) may read what lies under it;
   * otherwise that is looked at only when the view is made.
   */
  CHECKS_UNDER_VIEWS,
  /**
   * A view's owner is the asker for all that lies under the view: the routines it calls, and views
   * that read as their asker; and a routine that runs as its owner needs the owner's own right to
   * execute it.
   */
  OWNER_STANDS_FOR_ASKER,
  /**
   * A view can be made of what its maker may not read; only finding the names in it takes rights.
   */
  MAKES_VIEWS_OF_ANYTHING,
  /**
   * What a view shows as it is may be anything its maker may read, fill, change or empty; what it
   * decides by they must be able to read.
   */
  MAKES_VIEWS_OF_ANY_RIGHT,
  /** Changing rows and deleting them takes the right to read them, whatever is asked of them. */
  CHANGING_TAKES_SELECT,
  /** A MERGE takes the right to change rows on the whole table, whatever it does. */
  MERGE_TAKES_UPDATE,
  /** Columns that a join shares (USING, NATURAL) are compared without a right to read them. */
  SHARES_COLUMNS_FREELY,
  /** The same, but only where they are columns of views. */
  SHARES_COLUMNS_OF_VIEWS_FREELY,
  /** Whether there are rows is asked without reading any column, {@code exists (select * ...)}. */
  EXISTENCE_READS_NOTHING,
  /** Reading rows and keeping others from them takes the right to change them. */
  LOCKS_TAKE_UPDATE,
  /**
   * Row and mask policies can be put there: views that show what they allow, or rules of its own.
   */
  KEEPS_POLICIES,
  /** The server itself filters the rows of tables for each user. */
  FILTERS_ROWS,
  /** Policies can ask what the program says it is called that somebody works with. */
  TELLS_APPLICATION,
  /** Policies can ask from which address somebody works. */
  TELLS_ADDRESS,
  /** What is written through a view can be carried on to the table under it, by a trigger. */
  WRITES_THROUGH_VIEWS,
  /** Such a trigger writes with its maker's rights: who writes needs none on the table itself. */
  WRITES_THROUGH_AS_MAKER,
  /** A table that views read can get another name. */
  RENAMES_UNDER_VIEWS,
  /** Views go on reading a table that got another name, and not what gets its old one. */
  VIEWS_FOLLOW_TABLES,
  /** Grants stay with a table's name when the table gets another. */
  GRANTS_STAY_WITH_NAMES,
  /** Whoever holds any right on a table can count its rows. */
  ANY_RIGHT_COUNTS_ROWS,
  /**
   * One rule on a table says which rows are there and what stands in the place of values, for all
   * but superusers; policies are put there and noted beside it.
   */
  VEILS_TABLES,
  /** Things and columns carry labels, and what is given or refused can be so by a label. */
  LABELS,
  /** Whoever reads or changes rows runs nothing that others made: no triggers, no functions. */
  RUNS_NOTHING_ELSE,
  /** No view can be made of columns that have a quote in their name. */
  NO_VIEWS_OF_QUOTES,

  // how its SQL is written
  /** A backslash in a text takes the next character along. */
  BACKSLASHES_ESCAPE,
  /** A text with an {@code E} before it, and only that, has such backslashes. */
  ESCAPE_TEXTS,
  /** Texts can stand between tags of dollar signs. */
  DOLLAR_TEXTS,
  /** Comments can hold comments. */
  COMMENTS_NEST,
  /** A hash sign begins a comment, and two dashes only do so before a blank. */
  HASH_COMMENTS,
  /** What stands in a comment that begins with {@code !} is run. */
  COMMENTS_RUN,
  /** Names and texts can be written in code points, with {@code U&} before them. */
  CODE_POINTS,
  /** A name without quotes can begin with a digit. */
  DIGITS_BEGIN_NAMES,
  /** In the texts it keeps, of views for instance, every name stands in quotes. */
  KEEPS_NAMES_QUOTED,

  // what predicates and masks can be made of
  /** There is a function that digests need. */
  DIGESTS,
  /** Texts can be put in the order of their characters, whatever their collation. */
  ORDERS_TEXTS,
  /** The days that were left out where the Gregorian calendar took over do not exist. */
  SKIPS_JULIAN_DAYS
}
