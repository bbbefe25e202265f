package fiador.sqltext.uses;

import java.util.Set;

/** Words by which statements are told apart. */
final class Verbs {
  /** Statements that need no privilege on anything. */
  static final Set<String> HARMLESS =
      Set.of(
          "begin",
          "start",
          "commit",
          "end",
          "rollback",
          "abort",
          "savepoint",
          "release",
          "set",
          "reset",
          "show",
          "discard",
          "deallocate",
          "use",
          "listen",
          "unlisten",
          "notify",
          "fetch",
          "move",
          "close",
          "ping");

  /** Signs that something else stands inside a statement that needs nothing by itself. */
  static final Set<String> INSIDE = Set.of("select", ";");

  /** Words with which a query changes something after all, or asks for the right to. */
  static final Set<String> CHANGING =
      Set.of("insert", "update", "delete", "merge", "truncate", "replace", "into", ";");

  /** More than one statement at once. */
  static final Set<String> SEVERAL = Set.of(";");

  /** What defines things or administers: understood, and taken to need all of what it names. */
  static final Set<String> DEFINING =
      Set.of(
          "lock",
          "explain",
          "prepare",
          "declare",
          "execute",
          "exec",
          "call",
          "do",
          "replace",
          "load",
          "flush",
          "kill",
          "checkpoint",
          "xa",
          "create",
          "alter",
          "drop",
          "grant",
          "revoke",
          "comment",
          "analyze",
          "vacuum",
          "reindex",
          "cluster",
          "rename",
          "optimize",
          "refresh",
          "security",
          "reassign",
          "import");

  private Verbs() {}
}
