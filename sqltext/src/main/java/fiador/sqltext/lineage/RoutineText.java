package fiador.sqltext.lineage;

import fiador.sqltext.Inside;
import fiador.sqltext.SqlReader;
import fiador.sqltext.SqlToken;
import java.util.BitSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;

/**
 * The tables and views that a routine's body names and may read, whatever language it is in, with
 * the columns it names; texts that are put together and run count as body. More than it really
 * reads, never less as long as it names what it reads.
 */
public final class RoutineText {
  private static final Set<String> READING = Set.of("select", "table", "returning", "values");
  private static final Set<String> RUNNING = Set.of("execute", "prepare", "immediate", "query");
  private static final Set<String> BEFORE_STAR = Set.of("select", "distinct", "all", ".", ",");

  private static final SqlToken NOTHING = new SqlToken(SqlToken.Kind.SIGN, "", (char) 0, 0, 0);

  private final SqlReader reader;
  private final List<SqlToken> tokens;

  private RoutineText(SqlReader reader, List<SqlToken> tokens) {
    this.reader = reader;
    this.tokens = tokens;
  }

  /**
   * What a body may read.
   *
   * @return by node the ordinals of the columns that are named; all where a star stands somewhere
   */
  public static Map<Integer, BitSet> reads(String body, SqlReader reader, Relations relations) {
    if (reader.dependsOnVersion(body)) {
      return namedBy(body, reader, relations);
    }
    Map<Integer, BitSet> all = new LinkedHashMap<>();
    for (SqlReader way : reader.waysToRead()) {
      readOneWay(body, way, relations)
          .forEach((node, columns) -> all.computeIfAbsent(node, fresh -> new BitSet()).or(columns));
    }
    return all;
  }

  private static Map<Integer, BitSet> readOneWay(
      String body, SqlReader reader, Relations relations) {
    // what stands between tags of dollar signs is mostly there to be run
    RoutineText text = new RoutineText(reader, Inside.of(reader, body, t -> t.quote() == '$'));
    if (text.has(RUNNING)) {
      text = new RoutineText(reader, Inside.of(reader, body, RoutineText::mayBeRun));
    }
    return text.has(READING) ? text.found(relations) : Map.of();
  }

  /** What a body in another language than SQL may read: whatever its words name. */
  public static Map<Integer, BitSet> namedBy(String body, SqlReader reader, Relations relations) {
    return new RoutineText(reader, Inside.flat(body)).found(relations);
  }

  /** Also what some languages' quotes make of a text. */
  private static boolean mayBeRun(SqlToken token) {
    return token.isText() || token.isQuoted() && token.text().indexOf(' ') >= 0;
  }

  /** What stands in double quotes is a name wherever a session says so. */
  private static boolean mayBeName(SqlToken token) {
    return token.isName() || token.isText() && token.quote() == '"';
  }

  private String name(SqlToken token) {
    return token.quote() != 0 ? token.text() : reader.rules().fold(token.text());
  }

  private boolean has(Set<String> words) {
    return tokens.stream().anyMatch(token -> isOneOf(token, words));
  }

  private static boolean isOneOf(SqlToken token, Set<String> words) {
    return token.quote() == 0 && words.contains(token.text().toLowerCase(Locale.ROOT));
  }

  private Map<Integer, BitSet> found(Relations relations) {
    Set<String> words = new HashSet<>();
    boolean star = false;
    for (int i = 0; i < tokens.size(); i++) {
      SqlToken token = tokens.get(i);
      if (mayBeName(token)) {
        words.add(name(token));
      }
      star |= token.is("*") && i > 0 && isOneOf(tokens.get(i - 1), BEFORE_STAR);
    }
    boolean everything = star;
    Map<Integer, BitSet> found = new LinkedHashMap<>();
    Function<Integer, BitSet> named =
        node -> {
          BitSet columns = new BitSet();
          List<String> names = relations.columns(node);
          for (int ordinal = 0; ordinal < names.size(); ordinal++) {
            columns.set(ordinal, everything || words.contains(names.get(ordinal)));
          }
          return columns;
        };
    for (int i = 0; i < tokens.size(); i++) {
      if (!mayBeName(at(i)) || isWrittenTo(i) || at(i - 1).is(".")) {
        continue;
      }
      boolean qualified = at(i + 1).is(".") && mayBeName(at(i + 2));
      int node = qualified ? relations.node(name(at(i)), name(at(i + 2))) : -1;
      boolean deep = relations.acrossDatabases() && qualified && at(i + 3).is(".");
      if (deep && mayBeName(at(i + 4))) {
        node = relations.node(name(at(i)), name(at(i + 2)), name(at(i + 4)));
      }
      node = node < 0 && !qualified ? relations.node(null, name(at(i))) : node;
      if (node >= 0) {
        found.computeIfAbsent(node, named);
      }
    }
    return found;
  }

  private SqlToken at(int place) {
    return place < 0 || place >= tokens.size() ? NOTHING : tokens.get(place);
  }

  private boolean isWrittenTo(int place) {
    SqlToken before = at(place - 1);
    SqlToken first = at(place - 2);
    return before.is("into") && first.is("insert")
        || before.is("update")
        || before.is("from") && first.is("delete")
        || before.is("table") && first.is("truncate");
  }
}
