package fiador.sqltext;

import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.sqltext.SqlToken.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Takes SQL text apart as one kind of server does, with its quotes, escapes and comments. Reads any
 * text without failing: what is not closed goes to the end. Cost: the length of the text.
 */
public final class SqlReader {
  /** Such a comment may say for which versions it is. */
  private static final Pattern RUN_COMMENT = Pattern.compile("/\\*(M)?!(\\d{5,6})?");

  /** Versions up to this are run; whoever wants to be sure asks {@link #dependsOnVersion}. */
  private static final int NEWEST_RUN = 101_100;

  private final HouseRules rules;
  private final char nameQuote;
  private final boolean backslashes;
  private final boolean escapeTexts;
  private final boolean dollars;
  private final boolean nest;
  private final boolean hashes;
  private final boolean commentsRun;
  private final boolean codePoints;
  private final boolean digitsFirst;

  /** A reader of that server's SQL. */
  public SqlReader(HouseRules rules) {
    this(rules, rules.has(HouseFact.BACKSLASHES_ESCAPE));
  }

  private SqlReader(HouseRules rules, boolean backslashes) {
    this.rules = rules;
    this.nameQuote = rules.names().quote();
    this.backslashes = backslashes;
    this.escapeTexts = rules.has(HouseFact.ESCAPE_TEXTS);
    this.dollars = rules.has(HouseFact.DOLLAR_TEXTS);
    this.nest = rules.has(HouseFact.COMMENTS_NEST);
    this.hashes = rules.has(HouseFact.HASH_COMMENTS);
    this.commentsRun = rules.has(HouseFact.COMMENTS_RUN);
    this.codePoints = rules.has(HouseFact.CODE_POINTS);
    this.digitsFirst = rules.has(HouseFact.DIGITS_BEGIN_NAMES);
  }

  /**
   * This reader and, where a session can say that a backslash in a text stands for itself, one that
   * reads so: nobody can tell which of the two holds for a text.
   */
  public List<SqlReader> waysToRead() {
    return backslashes ? List.of(this, new SqlReader(rules, false)) : List.of(this);
  }

  /** Whether what is a comment there depends on the server's exact version. */
  public boolean dependsOnVersion(String sql) {
    return commentsRun && RUN_COMMENT.matcher(sql).find();
  }

  /** The rules it reads by. */
  public HouseRules rules() {
    return rules;
  }

  /** The pieces of a text in their order, without comments. */
  public List<SqlToken> tokens(String sql) {
    return new Reading(sql).all();
  }

  /** One text that is being read. */
  private final class Reading {
    private final String sql;
    private final List<SqlToken> tokens = new ArrayList<>();
    private int at;
    private int running;
    private @Nullable StringBuilder joined;
    private int joinedTo;
    private Escapes escapesBefore = Escapes.NONE;

    Reading(String sql) {
      this.sql = sql;
    }

    List<SqlToken> all() {
      while (at < sql.length()) {
        one(sql.charAt(at));
      }
      join();
      return tokens;
    }

    private void one(char c) {
      if (c <= ' ') {
        at++;
      } else if (isComment(c)) {
        int end = sql.indexOf('\n', at);
        at = end < 0 ? sql.length() : end + 1;
      } else if (sql.startsWith("/*", at)) {
        comment();
      } else if (running > 0 && sql.startsWith("*/", at)) {
        running--;
        at += 2;
      } else if (c == nameQuote) {
        quoted(at, c, Kind.NAME, Escapes.NONE);
      } else if (c == '\'' || c == '"') {
        quoted(at, c, Kind.TEXT, backslashes ? Escapes.SHORT : Escapes.NONE);
      } else if (c == '$' && dollars && dollarText()) {
        return;
      } else if (c >= '0' && c <= '9') {
        number();
      } else if (isNamePart(c)) {
        word();
      } else {
        add(Kind.SIGN, String.valueOf(c), (char) 0, at, at + 1);
      }
    }

    private void add(Kind kind, String text, char quote, int start, int end) {
      join();
      tokens.add(new SqlToken(kind, text, quote, start, end));
      at = end;
    }

    private boolean isComment(char c) {
      if (c == '#') {
        return hashes;
      }
      // 5--3 is 8 where a comment needs a blank
      return c == '-'
          && sql.startsWith("--", at)
          && (!hashes || at + 2 >= sql.length() || sql.charAt(at + 2) <= ' ');
    }

    private void comment() {
      if (commentsRun) {
        Matcher head = RUN_COMMENT.matcher(sql).region(at, sql.length());
        if (head.lookingAt() && isRun(head.group(1) != null, head.group(2))) {
          at = head.end();
          running++;
          return;
        }
      }
      int depth = 0;
      do {
        if (sql.startsWith("/*", at) && (nest || depth == 0)) {
          depth++;
          at += 2;
        } else if (sql.startsWith("*/", at)) {
          depth--;
          at += 2;
        } else {
          at++;
        }
      } while (depth > 0 && at < sql.length());
      at = Math.min(at, sql.length());
    }

    /** Versions of another server of the same descent are left out, but for old ones. */
    private static boolean isRun(boolean marked, String version) {
      int number = version == null ? 0 : Integer.parseInt(version);
      boolean others = number >= 50_700 && number <= 99_999 && !marked;
      return number <= NEWEST_RUN && !others;
    }

    /** What stands in quotes, from before them where something with a meaning stands there. */
    private void quoted(int start, char quote, Kind kind, Escapes escapes) {
      SqlToken before = tokens.isEmpty() ? null : tokens.get(tokens.size() - 1);
      int from = sql.indexOf(quote, start) + 1;
      boolean goesOn =
          kind == Kind.TEXT
              && start == from - 1
              && before != null
              && before.isText()
              && before.quote() != '$';
      Escapes how = goesOn ? escapesBefore : escapes;
      int end = quotesEnd(from, quote, how != Escapes.NONE);
      boolean closed = end > from && sql.charAt(end - 1) == quote;
      String bare = sql.substring(from, closed ? end - 1 : end);
      escapesBefore = how;
      if (goesOn) {
        // texts one after the other are one; somebody may write millions of them
        joined = joined == null ? new StringBuilder(before.text()) : joined;
        Escapes.undo(bare, quote, how, joined);
        at = end;
        joinedTo = end;
        return;
      }
      StringBuilder inside = new StringBuilder();
      Escapes.undo(bare, quote, how, inside);
      add(kind, inside.toString(), quote, start, end);
    }

    /** Puts the texts that follow one another in the place of the first. */
    private void join() {
      if (joined != null) {
        SqlToken first = tokens.remove(tokens.size() - 1);
        String text = joined.toString();
        joined = null;
        tokens.add(new SqlToken(Kind.TEXT, text, first.quote(), first.start(), joinedTo));
      }
    }

    /** Behind the closing quote, or the end of the text. */
    private int quotesEnd(int from, char quote, boolean escapes) {
      int end = from;
      while (end < sql.length()) {
        char c = sql.charAt(end);
        if (c == '\\' && escapes) {
          end += 2;
        } else if (c != quote) {
          end++;
        } else if (end + 1 < sql.length() && sql.charAt(end + 1) == quote) {
          end += 2;
        } else {
          return end + 1;
        }
      }
      return sql.length();
    }

    private boolean dollarText() {
      int tagEnd = at + 1;
      while (tagEnd < sql.length() && isNamePart(sql.charAt(tagEnd)) && sql.charAt(tagEnd) != '$') {
        tagEnd++;
      }
      boolean digit = at + 1 < sql.length() && Character.isDigit(sql.charAt(at + 1));
      if (tagEnd >= sql.length() || sql.charAt(tagEnd) != '$' || digit) {
        return false;
      }
      String tag = sql.substring(at, tagEnd + 1);
      int close = sql.indexOf(tag, tagEnd + 1);
      int end = close < 0 ? sql.length() : close;
      String inside = sql.substring(tagEnd + 1, end);
      add(Kind.TEXT, inside, '$', at, close < 0 ? end : end + tag.length());
      return true;
    }

    private void number() {
      int end = at;
      boolean only = true;
      while (end < sql.length() && isNamePart(sql.charAt(end))) {
        only &= Character.isDigit(sql.charAt(end));
        end++;
      }
      boolean behindDot = !tokens.isEmpty() && tokens.get(tokens.size() - 1).is(".");
      if (digitsFirst && !only && (behindDot || !isNumber(sql.substring(at, end)))) {
        add(Kind.NAME, sql.substring(at, end), (char) 0, at, end);
        return;
      }
      end = at;
      while (end < sql.length() && isDigitOrDot(end)) {
        end++;
      }
      end = exponent(end);
      add(Kind.NUMBER, sql.substring(at, end), (char) 0, at, end);
    }

    /** A range such as {@code 1..5} has no number with two dots. */
    private boolean isDigitOrDot(int place) {
      char c = sql.charAt(place);
      return c >= '0' && c <= '9'
          || c == '.' && !sql.startsWith("..", place) && sql.indexOf('.', at) == place;
    }

    private int exponent(int end) {
      if (end >= sql.length() || "eE".indexOf(sql.charAt(end)) < 0) {
        return end;
      }
      int digits = end + 1;
      if (digits < sql.length() && "+-".indexOf(sql.charAt(digits)) >= 0) {
        digits++;
      }
      int after = digits;
      while (after < sql.length() && Character.isDigit(sql.charAt(after))) {
        after++;
      }
      return after > digits ? after : end;
    }

    private static boolean isNumber(String word) {
      return word.matches("\\d+[eE]\\d*|0x[0-9a-fA-F]*|0b[01]*");
    }

    private void word() {
      int end = at;
      while (end < sql.length() && isNamePart(sql.charAt(end))) {
        end++;
      }
      String word = sql.substring(at, end);
      boolean text = end < sql.length() && sql.charAt(end) == '\'';
      char only = word.length() == 1 ? Character.toLowerCase(word.charAt(0)) : 0;
      if (text && only == 'e' && escapeTexts) {
        quoted(at, '\'', Kind.TEXT, Escapes.LONG);
      } else if (text && "bxn".indexOf(only) >= 0) {
        quoted(at, '\'', Kind.TEXT, backslashes ? Escapes.SHORT : Escapes.NONE);
      } else if (codePoints && only == 'u' && sql.startsWith("&\"", end)) {
        codePoints('"', Kind.NAME);
      } else if (codePoints && only == 'u' && sql.startsWith("&'", end)) {
        codePoints('\'', Kind.TEXT);
      } else {
        add(Kind.NAME, word, (char) 0, at, end);
      }
    }

    /** {@code U&"..."}, and behind it perhaps the character that stands for the backslash. */
    private void codePoints(char quote, Kind kind) {
      quoted(at, quote, kind, Escapes.NONE);
      SqlToken raw = tokens.remove(tokens.size() - 1);
      char escape = '\\';
      int next = skipBlanks(at);
      if (sql.regionMatches(true, next, "uescape", 0, 7)) {
        int open = skipBlanks(next + 7);
        if (open + 2 < sql.length() && sql.charAt(open) == '\'' && sql.charAt(open + 2) == '\'') {
          escape = sql.charAt(open + 1);
          at = open + 3;
        }
      }
      add(kind, Escapes.codePoints(raw.text(), escape), quote, raw.start(), at);
    }

    private int skipBlanks(int from) {
      int place = from;
      while (place < sql.length() && sql.charAt(place) <= ' ') {
        place++;
      }
      return place;
    }
  }

  /** A letter, a digit, a sign that may stand in names, or anything beyond ASCII. */
  private static boolean isNamePart(char c) {
    return c >= 'a' && c <= 'z'
        || c >= 'A' && c <= 'Z'
        || c >= '0' && c <= '9'
        || c == '_'
        || c == '$'
        || c >= 0x80;
  }
}
