package fiador.sqltext.needs;

import fiador.effects.Need;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.sqltext.SqlReader;
import fiador.sqltext.SqlToken;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.lineage.QuotedNames;
import fiador.sqltext.lineage.ViewColumns;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.Statement;
import net.sf.jsqlparser.statement.create.table.CreateTable;
import net.sf.jsqlparser.statement.create.view.CreateView;
import net.sf.jsqlparser.statement.delete.Delete;
import net.sf.jsqlparser.statement.drop.Drop;
import net.sf.jsqlparser.statement.insert.Insert;
import net.sf.jsqlparser.statement.merge.Merge;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.truncate.Truncate;
import net.sf.jsqlparser.statement.update.Update;

/**
 * What one statement needs: every privilege, with its columns, that the server asks for before it
 * runs it. What triggers, defaults and rules of the tables do besides is not known.
 */
public final class StatementNeeds {
  /** What a table made of a query may end in, and the parser does not know. */
  private static final Pattern WITH_DATA =
      Pattern.compile("\\s+with\\s+(no\\s+)?data\\s*;?\\s*$", Pattern.CASE_INSENSITIVE);

  private final Access access;
  private final HouseRules rules;
  private final Tree tree;
  private final Names names;
  private final Collected collected;
  private final ReadNeeds reading;

  private StatementNeeds(Access access, QuotedNames quoted) {
    this.access = access;
    this.rules = access.rules();
    this.tree = access.tree();
    this.names = new Names(access, quoted);
    this.collected = new Collected(access);
    this.reading = new ReadNeeds(tree, names, collected);
  }

  /**
   * Reads a statement. Cost: its length, and the nodes for each name in it.
   *
   * @throws NotUnderstood where it cannot be read to its end, or names what is not there
   */
  public static List<Need> of(Access access, String statement) throws NotUnderstood {
    SqlReader reader = new SqlReader(access.rules());
    List<SqlToken> tokens = reader.tokens(statement);
    for (SqlToken token : tokens.subList(0, Math.max(0, tokens.size() - 1))) {
      if (token.is(";")) {
        throw new NotUnderstood("it is more than one statement");
      }
    }
    QuotedNames quoted = new QuotedNames(statement, reader);
    StatementNeeds needs = new StatementNeeds(access, quoted);
    try {
      needs.look(ViewColumns.parsed(WITH_DATA.matcher(quoted.text()).replaceFirst("")));
    } catch (JSQLParserException beyond) {
      throw new NotUnderstood("its grammar is beyond the parser");
    } catch (RuntimeException | StackOverflowError beyond) {
      throw new NotUnderstood(beyond);
    }
    List<Need> found = needs.collected.needs();
    needs.nothingLeftOut(tokens, found);
    return found;
  }

  private void look(Statement statement) throws NotUnderstood {
    ChangeNeeds changes = new ChangeNeeds(rules, tree, reading);
    if (statement instanceof Select select) {
      reading.query(select, null);
    } else if (statement instanceof Insert insert) {
      changes.insert(insert);
    } else if (statement instanceof Update update) {
      changes.update(update);
    } else if (statement instanceof Delete delete) {
      changes.delete(delete);
    } else if (statement instanceof Merge merge) {
      changes.merge(merge);
    } else if (statement instanceof Truncate truncate) {
      changes.truncate(truncate);
    } else if (statement instanceof CreateTable create) {
      createTable(create);
    } else if (statement instanceof CreateView create) {
      createView(create);
    } else if (statement instanceof Drop drop) {
      drop(drop);
    } else {
      throw new NotUnderstood(
          "only select, insert, update, delete, merge, truncate, create table, create view and drop"
              + " are looked at");
    }
  }

  private void createTable(CreateTable create) throws NotUnderstood {
    boolean temporary =
        create.getCreateOptionsStrings() != null && !create.getCreateOptionsStrings().isEmpty();
    if (temporary || create.getLikeTable() != null || create.getIndexes() != null) {
      throw new NotUnderstood("a table of a kind that is not known");
    }
    made(create.getTable(), Privilege.CREATE);
    if (create.getSelect() != null) {
      reading.query(create.getSelect(), null);
      int schema = names.schema(create.getTable());
      // what a query fills is inserted into, where that is not the maker's in any case
      if ((rules.privilegesOn(NodeKind.SCHEMA) & Privilege.INSERT.bit()) != 0) {
        collected.whole(schema, Privilege.INSERT);
      }
    }
  }

  private void createView(CreateView create) throws NotUnderstood {
    if (create.isMaterialized() || create.isOrReplace()) {
      throw new NotUnderstood("a view of a kind that is not known");
    }
    boolean ownPrivilege = (rules.privilegesOn(NodeKind.SCHEMA) & Privilege.CREATE_VIEW.bit()) != 0;
    made(create.getView(), ownPrivilege ? Privilege.CREATE_VIEW : Privilege.CREATE);
    Collected under = new Collected(access, true);
    new ReadNeeds(tree, names, under).query(create.getSelect(), null);
    if (rules.has(HouseFact.MAKES_VIEWS_OF_ANYTHING)) {
      under.needs().forEach(need -> collected.found(need.node()));
    } else {
      under.needs().forEach(collected::need);
    }
  }

  private void made(Table table, Privilege privilege) throws NotUnderstood {
    int schema = names.schema(table);
    names.name(table.getName());
    if ((rules.privilegesOn(NodeKind.SCHEMA) & privilege.bit()) != 0) {
      collected.whole(schema, privilege);
    } else {
      collected.ownership(schema);
    }
  }

  private void drop(Drop drop) throws NotUnderstood {
    String type = drop.getType().toLowerCase(Locale.ROOT);
    boolean known = type.equals("table") || type.equals("view");
    if (!known || drop.isMaterialized() || drop.isUsingTemporary()) {
      throw new NotUnderstood("only tables and views that are dropped are looked at");
    }
    int node = names.relation(drop.getName());
    if ((rules.privilegesOn(tree.kind(node)) & Privilege.DROP.bit()) != 0) {
      collected.whole(node, Privilege.DROP);
    } else {
      collected.ownership(node);
    }
  }

  /**
   * Every word that is a column of something that is used, or a table, view or routine, must have
   * been come past: else the parser has hidden a part of the statement.
   */
  private void nothingLeftOut(List<SqlToken> tokens, List<Need> found) throws NotUnderstood {
    for (SqlToken token : tokens) {
      String folded = token.isQuoted() ? token.text() : rules.fold(token.text());
      boolean past = names.isUsed(token.text()) || names.isUsed(folded);
      if (!token.isName() || past) {
        continue;
      }
      boolean hidden = names.isThing(folded);
      for (Need need : found) {
        hidden |= names.column(need.node(), folded) >= 0;
      }
      if (hidden) {
        throw new NotUnderstood("what " + token.text() + " does there is not known");
      }
    }
  }
}
