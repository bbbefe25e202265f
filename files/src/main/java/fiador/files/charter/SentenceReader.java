package fiador.files.charter;

import fiador.changes.wanted.Period;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.Wanted.Target;
import fiador.estate.Nearest;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.files.charter.GrantSentenceParser.ActionContext;
import fiador.files.charter.GrantSentenceParser.EveryContext;
import fiador.files.charter.GrantSentenceParser.KindContext;
import fiador.files.charter.GrantSentenceParser.NameContext;
import fiador.files.charter.GrantSentenceParser.SentenceContext;
import fiador.files.charter.GrantSentenceParser.SingleContext;
import fiador.files.charter.GrantSentenceParser.TargetContext;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.antlr.v4.runtime.BaseErrorListener;
import org.antlr.v4.runtime.CharStreams;
import org.antlr.v4.runtime.CommonTokenStream;
import org.antlr.v4.runtime.ParserRuleContext;
import org.antlr.v4.runtime.RecognitionException;
import org.antlr.v4.runtime.Recognizer;
import org.antlr.v4.runtime.Token;

/** Reads grant sentences; mistakes point at the word. */
final class SentenceReader {
  private final Scalar text;
  private final Mistakes mistakes;
  private final String hint;
  private final Period when;
  private boolean wrong;

  private SentenceReader(Scalar written, Mistakes mistakes, String hint) {
    Moments.Timed timed = Moments.split(written, mistakes);
    this.text = timed.text();
    this.when = timed.when();
    this.mistakes = mistakes;
    this.hint = hint;
  }

  /** The sentence; null when it has mistakes, which are noted. */
  static Sentence read(Scalar text, Mistakes mistakes) {
    return new SentenceReader(text, mistakes, "").read();
  }

  /** As the other, for what may have been cut off by a comma in a list. */
  static Sentence readPiece(Scalar text, Mistakes mistakes) {
    String hint = "; a comma in [ ] ends a sentence: put one that has commas in quotes";
    return new SentenceReader(text, mistakes, hint).read();
  }

  private void mistake(int offset, String message) {
    // after the first grammatical surprise the rest is guesswork
    if (!wrong) {
      mistakes.add(text.at(offset), message + hint);
    }
    wrong = true;
  }

  private Sentence read() {
    GrantSentenceLexer lexer = new GrantSentenceLexer(CharStreams.fromString(text.text()));
    lexer.removeErrorListeners();
    GrantSentenceParser parser = new GrantSentenceParser(new CommonTokenStream(lexer));
    parser.removeErrorListeners();
    parser.addErrorListener(
        new BaseErrorListener() {
          @Override
          public void syntaxError(
              Recognizer<?, ?> recognizer,
              Object symbol,
              int line,
              int column,
              String message,
              RecognitionException cause) {
            mistake(((Token) symbol).getStartIndex(), surprise((Token) symbol, parser));
          }
        });
    SentenceContext tree = parser.sentence();
    if (wrong) {
      return null;
    }
    List<Action> actions = actions(tree);
    List<Target> targets = new ArrayList<>();
    tree.target().forEach(target -> targets.add(target(target)));
    boolean every = targets.stream().anyMatch(Every.class::isInstance);
    boolean said = tree.when() != null;
    boolean now = !said || tree.when().NOW() != null;
    boolean later = said ? tree.when().LATER() != null : every;
    if (later && !every) {
      mistake(
          tree.when().getStart().getStartIndex(),
          "\"later\" goes with \"every ... in SCHEMA\": a single object is there or it is not");
    }
    return wrong
        ? null
        : new Sentence(
            actions,
            targets,
            now,
            later,
            tree.OPTION() != null,
            tree.MADE() == null ? null : tree.name().getText(),
            when,
            text.place());
  }

  private static String surprise(Token found, GrantSentenceParser parser) {
    Set<String> expected =
        parser.getExpectedTokens().toSet().stream()
            .map(SentenceReader::inWords)
            .collect(Collectors.toCollection(java.util.TreeSet::new));
    String what =
        found.getType() == Token.EOF ? "the sentence ends" : "found \"" + found.getText() + "\"";
    String hint =
        found.getType() == GrantSentenceParser.WORD
            ? Nearest.hint(found.getText(), expected.stream().filter(w -> w.length() > 1))
            : "";
    if (found.getText().equals("until") || found.getText().equals("from")) {
      return "behind \"" + found.getText() + "\" a day or a time is missing, such as 2027-03-31";
    }
    return what + " where " + String.join(" or ", expected) + " was expected" + hint;
  }

  private static String inWords(int token) {
    return switch (token) {
      case Token.EOF -> "the end";
      case GrantSentenceParser.WORD, GrantSentenceParser.QUOTED -> "a name";
      default -> {
        String literal = GrantSentenceParser.VOCABULARY.getLiteralName(token);
        yield literal == null ? "a name" : literal.substring(1, literal.length() - 1);
      }
    };
  }

  private List<Action> actions(SentenceContext tree) {
    if (tree.actions().ALL() != null) {
      return List.of(new Action(null, List.of()));
    }
    return tree.actions().action().stream().map(this::action).toList();
  }

  private Action action(ActionContext tree) {
    String words = words(tree.privilege());
    Privilege privilege = Privilege.named(words);
    if (privilege == null) {
      mistake(
          tree.privilege().getStart().getStartIndex(),
          "there is no privilege \""
              + words
              + "\""
              + Nearest.hint(words, Arrays.stream(Privilege.values()).map(Privilege::text)));
    }
    List<String> columns =
        tree.columns() == null
            ? List.of()
            : tree.columns().name().stream().map(NameContext::getText).toList();
    return new Action(privilege, columns, tree.EXCEPT() != null);
  }

  private static String words(ParserRuleContext tree) {
    return tree.children.stream()
        .map(child -> child.getText().toLowerCase(Locale.ROOT))
        .collect(Collectors.joining(" "));
  }

  private Target target(TargetContext tree) {
    if (tree instanceof EveryContext every) {
      Set<NodeKind> kinds = EnumSet.noneOf(NodeKind.class);
      every.kind().forEach(kind -> addKind(kind, kinds));
      if (every.IN() == null) {
        mistake(
            every.getStop().getStopIndex() + 1,
            "\"in\" and the name of a schema are missing after \"" + words(every.kind(0)) + "\"");
      }
      String label = every.LABELLED() == null ? null : every.name().getText();
      return new Every(kinds, every.dotted() == null ? "" : every.dotted().getText(), label);
    }
    SingleContext single = (SingleContext) tree;
    Set<NodeKind> kinds = EnumSet.noneOf(NodeKind.class);
    if (single.kind() != null) {
      addKind(single.kind(), kinds);
    }
    if (kinds.isEmpty() && single.getText().equals(NodeKind.SERVER.text())) {
      return new Single(NodeKind.SERVER, "");
    }
    int from = single.dotted().getStart().getStartIndex();
    int to = single.dotted().getStop().getStopIndex();
    String name = text.text().substring(from, to + 1);
    return new Single(kinds.isEmpty() ? null : kinds.iterator().next(), name);
  }

  private void addKind(KindContext tree, Set<NodeKind> kinds) {
    String words = words(tree);
    NodeKind kind = NodeKind.named(words);
    if (kind == null) {
      mistake(
          tree.getStart().getStartIndex(),
          "there is no kind of thing \""
              + words
              + "\""
              + Nearest.hint(words, Arrays.stream(NodeKind.values()).map(NodeKind::text)));
    } else {
      kinds.add(kind);
    }
  }
}
