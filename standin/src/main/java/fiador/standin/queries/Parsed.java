package fiador.standin.queries;

import fiador.standin.estate.MistakeException;
import java.util.LinkedHashMap;
import java.util.Map;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.parser.CCJSqlParser;
import net.sf.jsqlparser.parser.CCJSqlParserConstants;
import net.sf.jsqlparser.parser.ParseException;
import net.sf.jsqlparser.parser.TokenMgrException;

/** What veils say, parsed once: each query of a veiled table needs it. */
final class Parsed {
  private static final int MOST = 1_000;

  private final Map<String, Expression> known =
      new LinkedHashMap<>() {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Expression> eldest) {
          return size() > MOST;
        }
      };

  /** An expression, which nobody changes. */
  synchronized Expression of(String text) throws MistakeException {
    Expression before = known.get(text);
    if (before != null) {
      return before;
    }
    PlainText.check(text);
    Expression parsed = parsed(text);
    known.put(text, parsed);
    return parsed;
  }

  /** The library itself tries no deep brackets unless it is told to. */
  private static Expression parsed(String text) throws MistakeException {
    try {
      CCJSqlParser parser = new CCJSqlParser(text);
      parser.withAllowComplexParsing(true);
      Expression parsed = parser.Expression();
      if (parser.getNextToken().kind == CCJSqlParserConstants.EOF) {
        return parsed;
      }
    } catch (ParseException | TokenMgrException wrong) {
      // said below
    }
    throw new MistakeException("this is nothing that can be worked out");
  }
}
