package fiador.sqltext.uses;

import fiador.grants.Access;
import fiador.sqltext.Inside;
import fiador.sqltext.SqlReader;
import fiador.sqltext.SqlToken;
import fiador.sqltext.SqlToken.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * Tells what statements use. A parser tells what a statement does and to what; what it reads is
 * taken from its words, which finds rather too much than too little: every name that a column or an
 * object of the estate has counts. So nothing that was used is ever missed. Remembers what it told
 * a moment ago, for a log says much the same again and again.
 */
public final class StatementUses {
  /** Verbs whose texts are run. */
  private static final Set<String> RUNNING = Set.of("do", "execute", "prepare", "call");

  private final Access access;
  private final NamedObjects objects;
  private final SqlReader reader;

  /** By text, and by text without its numbers and what stands in quotes. */
  private final Meaning.Recent recent = new Meaning.Recent();

  private final Meaning.Recent shapes = new Meaning.Recent();

  /** Of statements to that server. */
  public StatementUses(Access access) {
    this.access = access;
    this.objects = new NamedObjects(access);
    this.reader = new SqlReader(access.rules());
  }

  /** What a statement uses. */
  public Meaning of(String statement, String database) {
    Meaning.Asked asked = new Meaning.Asked(withoutEnd(statement), database);
    Meaning known = recent.get(asked);
    if (known != null) {
      return known;
    }
    List<SqlToken> tokens = tokens(asked.text());
    OneStatement one = new OneStatement(access, objects, asked, words(tokens), reader);
    boolean byShape = !one.namesInQuotes();
    Meaning.Asked shaped = new Meaning.Asked(shape(tokens), database);
    Meaning meaning = byShape ? shapes.get(shaped) : null;
    if (meaning == null) {
      meaning = one.meaning();
      if (byShape) {
        shapes.put(shaped, meaning);
      }
    }
    recent.put(asked, meaning);
    return meaning;
  }

  /** A semicolon at the end is the end and no further statement. */
  private static String withoutEnd(String sql) {
    int end = sql.length();
    while (end > 0 && (sql.charAt(end - 1) == ';' || sql.charAt(end - 1) <= ' ')) {
      end--;
    }
    return sql.substring(0, end);
  }

  private List<SqlToken> tokens(String sql) {
    List<SqlToken> plain = reader.tokens(sql);
    String verb = plain.isEmpty() ? "" : plain.get(0).text().toLowerCase(Locale.ROOT);
    return RUNNING.contains(verb)
        ? Inside.of(reader, sql, SqlToken::isText)
        : Inside.of(reader, sql, token -> token.quote() == '$');
  }

  /** Names and signs; what stands in double quotes may be a name, as the session has it. */
  private static List<SqlToken> words(List<SqlToken> tokens) {
    List<SqlToken> words = new ArrayList<>(tokens.size());
    for (SqlToken token : tokens) {
      if (!token.isText()) {
        words.add(token);
      } else if (token.quote() == '"') {
        words.add(new SqlToken(Kind.NAME, token.text(), '"', token.start(), token.end()));
      }
    }
    return words;
  }

  /** Two statements of one shape say the same but for numbers and texts. */
  private static String shape(List<SqlToken> tokens) {
    StringBuilder shape = new StringBuilder();
    for (SqlToken token : tokens) {
      switch (token.kind()) {
        case NUMBER -> shape.append('0');
        case TEXT -> shape.append('\'').append(token.quote() == '"' ? token.text() : "");
        case NAME -> shape.append(token.isQuoted() ? "\"" : "").append(token.text());
        case SIGN -> shape.append(token.text());
      }
      shape.append(' ');
    }
    return shape.toString();
  }
}
