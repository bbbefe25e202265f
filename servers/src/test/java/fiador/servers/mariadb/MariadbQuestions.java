package fiador.servers.mariadb;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;

/** Statements that need one privilege each and change nothing. */
final class MariadbQuestions {
  private final Tree tree;

  MariadbQuestions(Tree tree) {
    this.tree = tree;
  }

  /** A statement that needs this privilege and no other, and changes nothing; empty if none. */
  String of(MariadbConformanceTest.Thing thing) {
    int node = thing.node();
    String column = thing.column() < 0 ? "" : RandomMariadb.name(tree.column(node, thing.column()));
    return switch (tree.kind(node)) {
      case TABLE -> onTable(thing.privilege(), path(node), column);
      case VIEW ->
          thing.privilege() == Privilege.SELECT
              ? "select " + column + " from " + path(node) + " limit 0"
              : "";
      case SEQUENCE ->
          switch (thing.privilege()) {
            case SELECT -> "select previous value for " + path(node);
            case INSERT -> "select next value for " + path(node);
            default -> "";
          };
      case ROUTINE -> onRoutine(thing.privilege(), node);
      case SCHEMA -> onSchema(thing.privilege(), RandomMariadb.name(tree.name(node)));
      default -> "";
    };
  }

  private static String onTable(Privilege privilege, String table, String column) {
    return switch (privilege) {
      case SELECT -> "select " + column + " from " + table + " limit 0";
      case INSERT -> "insert into " + table + " (" + column + ") values (1)";
      case UPDATE -> "update " + table + " set " + column + " = 1";
      case DELETE -> "delete from " + table;
      case CREATE -> "create table " + table + " (a int)";
      case DROP -> "truncate table " + table;
      case ALTER -> "alter table " + table + " drop column no_such, drop column nor_this";
      case CREATE_VIEW -> "create view " + table + " as select 1";
      case TRIGGER ->
          "create trigger "
              + schema(table)
              + ".x before insert on "
              + table
              + " for each row set @x = 1";
      default -> "";
    };
  }

  private static String schema(String table) {
    return table.substring(0, table.indexOf("`.") + 1);
  }

  private String onRoutine(Privilege privilege, int node) {
    boolean function = !tree.name(node).startsWith("p");
    String arguments = tree.name(node).startsWith("f") ? "(1)" : "()";
    return switch (privilege) {
      case EXECUTE -> (function ? "select " : "call ") + path(node) + arguments;
      case ALTER_ROUTINE ->
          "alter " + (function ? "function " : "procedure ") + path(node) + " comment 'x'";
      default -> "";
    };
  }

  private static String onSchema(Privilege privilege, String schema) {
    return switch (privilege) {
      case CREATE -> "create table " + schema + ".new_one (a int, a int)";
      case CREATE_ROUTINE -> "create procedure " + schema + ".p() select 1";
      case CREATE_TEMPORARY_TABLES ->
          "create temporary table " + schema + ".temp_x (a int) select no_such";
      case ALTER -> "alter database " + schema + " comment 'x'";
      default -> "";
    };
  }

  String path(int node) {
    String in = RandomMariadb.name(tree.name(tree.parent(node))) + ".";
    String own = tree.name(node);
    return in
        + RandomMariadb.name(
            tree.kind(node) == NodeKind.ROUTINE ? own.substring(0, own.indexOf('(')) : own);
  }
}
