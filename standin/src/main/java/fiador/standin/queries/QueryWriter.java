package fiador.standin.queries;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.RefusedException;
import fiador.standin.queries.Asking.Reader;
import fiador.standin.queries.Asking.Relation;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.Set;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.expression.Alias;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.Statement;
import net.sf.jsqlparser.statement.piped.FromQuery;
import net.sf.jsqlparser.statement.select.Join;
import net.sf.jsqlparser.statement.select.LateralView;
import net.sf.jsqlparser.statement.select.ParenthesedSelect;
import net.sf.jsqlparser.statement.select.PlainSelect;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.select.SelectVisitor;
import net.sf.jsqlparser.statement.select.TableFunction;
import net.sf.jsqlparser.statement.select.TableStatement;
import net.sf.jsqlparser.statement.select.WithItem;
import net.sf.jsqlparser.util.deparser.SelectDeParser;

/** Writes a query anew, with what its reader may see in the place of each table. */
final class QueryWriter extends SelectDeParser {
  private static final int SECONDS = 5;

  private final Asking asking;
  private final Reader reader;
  private final Set<String> named = new HashSet<>();
  private final Deque<Scope> scopes = new ArrayDeque<>();
  private final ExpressionWriter expressions;
  private boolean everyColumn;

  /** Whether each query within is one by itself, behind the views that it reads. */
  private boolean eachByItself;

  /** One SELECT: what is hidden in what it reads, and whether it asks for all columns. */
  private static final class Scope {
    private final Set<String> hidden = new HashSet<>();
    private boolean star;
    private String where = "";
  }

  QueryWriter(Asking asking, Reader reader) {
    super(new StringBuilder());
    this.asking = asking;
    this.reader = reader;
    this.expressions = new ExpressionWriter(this, getBuilder(), reader.isVeil());
    setExpressionVisitor(expressions);
  }

  /** One for an expression of a statement that is no query, but may have such. */
  static QueryWriter ofExpression(Asking asking, Reader reader) {
    QueryWriter writer = new QueryWriter(asking, reader);
    writer.eachByItself = true;
    return writer;
  }

  /** A statement, parsed. */
  static Statement parsed(String text) throws MistakeException {
    PlainText.check(text);
    try {
      return CCJSqlParserUtil.parse(text, parser -> parser.withTimeOut(SECONDS * 1000L));
    } catch (JSQLParserException wrong) {
      String first = String.valueOf(wrong.getMessage()).lines().findFirst().orElse("");
      throw new MistakeException("this is no statement: " + first);
    }
  }

  /** A query as one may ask it. */
  static String rewritten(Asking asking, String text, Reader reader)
      throws RefusedException, MistakeException {
    if (!(parsed(text) instanceof Select select)) {
      throw new MistakeException("this is no query");
    }
    return rewritten(asking, select, reader);
  }

  static String rewritten(Asking asking, Select select, Reader reader)
      throws RefusedException, MistakeException {
    QueryWriter writer = new QueryWriter(asking, reader);
    try {
      select.accept((SelectVisitor<StringBuilder>) writer, null);
    } catch (Stopped stopped) {
      throw stopped.unpack();
    }
    return writer.getBuilder().toString();
  }

  /** Says that all columns of what is read there are asked for. */
  void star() {
    everyColumn = true;
    if (!scopes.isEmpty()) {
      scopes.peek().star = true;
    }
  }

  /** Whether the query names a column anywhere, by its name in small letters. */
  private boolean names(String column) {
    return everyColumn || expressions.columns().contains(column);
  }

  @Override
  public <S> StringBuilder visit(PlainSelect select, S context) {
    boolean odd =
        select.getIntoTables() != null
            || select.getIntoTempTable() != null
            || select.getOracleHierarchical() != null
            || select.getForMode() != null
            || select.getForXmlPath() != null
            || select.getKsqlWindow() != null;
    if (odd) {
      throw Stopped.mistake("a query reads rows and does nothing else here");
    }
    names(select);
    scopes.push(new Scope());
    super.visit(select, context);
    Scope scope = scopes.pop();
    if (scope.star && !scope.hidden.isEmpty()) {
      throw Stopped.refused(scope.where);
    }
    return getBuilder();
  }

  /** Names given with WITH are no tables. */
  private void names(Select select) {
    if (select.getWithItemsList() != null) {
      select.getWithItemsList().forEach(item -> named.add(PlainText.lower(item.getAliasName())));
    }
  }

  @Override
  public <S> StringBuilder visit(ParenthesedSelect select, S context) {
    names(select);
    if (!eachByItself || asking.apart().isWanted()) {
      return super.visit(select, context);
    }
    asking.apart().begin();
    int from = getBuilder().length();
    super.visit(select, context);
    String query = getBuilder().substring(from);
    boolean inBrackets = query.startsWith("(");
    getBuilder().setLength(from);
    getBuilder().append(inBrackets ? "(" : "");
    return getBuilder().append(asking.apart().before(inBrackets ? query.substring(1) : query));
  }

  @Override
  public <S> StringBuilder visit(
      net.sf.jsqlparser.statement.select.SetOperationList list, S context) {
    names(list);
    return super.visit(list, context);
  }

  @Override
  public <S> StringBuilder visit(WithItem<?> item, S context) {
    if (!(item.getParenthesedStatement() instanceof ParenthesedSelect)) {
      throw Stopped.mistake("WITH names queries here, and no statements that change rows");
    }
    return super.visit(item, context);
  }

  @Override
  public <S> StringBuilder visit(Table table, S context) {
    boolean odd =
        table.getPivot() != null
            || table.getUnPivot() != null
            || table.getIndexHint() != null
            || table.getSqlServerHints() != null
            || table.getSampleClause() != null;
    if (odd) {
      throw Stopped.mistake("nothing but another name follows a table here");
    }
    Alias alias = table.getAlias();
    if (table.getNameParts().size() == 1) {
      if (!named.contains(PlainText.lower(table.getName()))) {
        throw Stopped.mistake("say in which schema " + table.getName() + " is");
      }
      getBuilder().append(table.getName());
      asking.remember(table.getName());
    } else {
      append(table);
      if (alias == null) {
        getBuilder().append(" AS ").append(table.getName());
      }
    }
    if (alias != null) {
      getBuilder().append(alias);
    }
    return getBuilder();
  }

  private void append(Table table) {
    try {
      Relation relation = asking.relation(table, reader, this::names);
      getBuilder().append(relation.sql());
      if (!scopes.isEmpty() && !relation.hidden().isEmpty()) {
        scopes.peek().hidden.addAll(relation.hidden());
        scopes.peek().where =
            reader.session().acting()
                + " may not select all columns of "
                + table.getFullyQualifiedName()
                + ": not "
                + String.join(", ", relation.hidden());
      }
    } catch (RefusedException | MistakeException stop) {
      throw new Stopped(stop);
    }
  }

  private static String lowerName(Column column) {
    return PlainText.lower(PlainText.name(column.getColumnName(), name -> name));
  }

  @Override
  public void deparseJoin(Join join) {
    if (join.isNatural()) {
      throw Stopped.mistake("say which columns a join is over");
    }
    // both tables are looked at by these
    join.getUsingColumns().forEach(column -> expressions.columns().add(lowerName(column)));
    super.deparseJoin(join);
  }

  @Override
  public <S> StringBuilder visit(TableFunction function, S context) {
    throw Stopped.mistake("there are no functions that give rows here");
  }

  @Override
  public <S> StringBuilder visit(TableStatement statement, S context) {
    throw Stopped.mistake("say SELECT * FROM instead of TABLE");
  }

  @Override
  public <S> StringBuilder visit(FromQuery query, S context) {
    throw Stopped.mistake("a query begins with SELECT, VALUES or WITH here");
  }

  @Override
  public void deparseLateralView(LateralView view) {
    throw Stopped.mistake("there are no functions that give rows here");
  }
}
