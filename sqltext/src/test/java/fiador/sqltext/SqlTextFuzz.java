package fiador.sqltext;

import fiador.estate.NodeKind;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.MariadbRules;
import fiador.grants.rules.PostgresqlRules;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.lineage.QuotedNames;
import fiador.sqltext.lineage.Relations;
import fiador.sqltext.lineage.RoutineText;
import fiador.sqltext.lineage.ViewColumns;
import fiador.sqltext.needs.StatementNeeds;
import fiador.sqltext.rules.RowRuleText;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** What the fuzzer calls for texts that people put on servers: views, routines, row rules. */
public final class SqlTextFuzz {
  /** The readers of such texts. */
  public enum Reader {
    TOKENS,
    VIEW,
    ROUTINE,
    RULE,
    STATEMENT
  }

  private static final List<HouseRules> SERVERS =
      List.of(PostgresqlRules.of(16), MariadbRules.of(10, 11), HsqldbRules.rules());

  private static final Relations ANY =
      new Relations() {
        @Override
        public int node(String schema, String name) {
          return 3;
        }

        @Override
        public List<String> columns(int node) {
          return List.of("a", "b");
        }
      };

  private SqlTextFuzz() {}

  /** One input for the reader that the property names. */
  public static void fuzzerTestOneInput(byte[] input) {
    tried(Reader.valueOf(System.getProperty("fiador.reader")), input);
  }

  /** One input; nothing but an understood text, or one that is not, may come of it. */
  static void tried(Reader reader, byte[] input) {
    String text = new String(input, StandardCharsets.UTF_8);
    for (HouseRules rules : SERVERS) {
      SqlReader sql = new SqlReader(rules);
      switch (reader) {
        case TOKENS -> inOrder(text, Inside.of(sql, text, SqlToken::isText), sql.tokens(text));
        case VIEW -> {
          QuotedNames names = new QuotedNames(text, sql);
          names.pairs();
          try {
            ViewColumns.of(names, 2, ANY);
          } catch (NotUnderstood said) {
            // then it counts as showing all it reads
          }
        }
        case ROUTINE -> {
          RoutineText.reads(text, sql, ANY);
          RoutineText.namedBy(text, sql, ANY);
        }
        case RULE -> RowRuleText.predicate(text);
        case STATEMENT -> {
          try {
            StatementNeeds.of(new TinyEstate(rules).node(NodeKind.SCHEMA, "s").build(), text);
          } catch (NotUnderstood said) {
            // then nothing is claimed
          }
        }
      }
    }
  }

  /** Each piece lies behind the one before, inside the text, and says something or is quoted. */
  private static void inOrder(String text, List<SqlToken> opened, List<SqlToken> tokens) {
    int end = 0;
    for (SqlToken token : tokens) {
      if (token.start() < end || token.end() <= token.start() || token.end() > text.length()) {
        throw new IllegalStateException(token + " behind " + end);
      }
      if (token.quote() == 0 && !text.startsWith(token.text(), token.start())) {
        throw new IllegalStateException(token + " is not what stands there");
      }
      end = token.end();
    }
    if (tokens.stream().noneMatch(SqlToken::isText) && opened.size() != tokens.size()) {
      throw new IllegalStateException("nothing was opened, and yet there is more");
    }
  }
}
