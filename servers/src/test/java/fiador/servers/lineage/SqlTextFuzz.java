package fiador.servers.lineage;

import fiador.servers.postgresql.RuleTexts;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.UnaryOperator;

/** What the fuzzer calls for texts that people put on servers: views, routines, row rules. */
public final class SqlTextFuzz {
  /** The readers of such texts. */
  public enum Reader {
    VIEW,
    ROUTINE,
    RULE
  }

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
    for (char quote : new char[] {'"', '`'}) {
      boolean backslashes = quote == '`';
      switch (reader) {
        case VIEW -> {
          QuotedNames names = new QuotedNames(text, quote, backslashes, UnaryOperator.identity());
          names.pairs();
          try {
            ViewColumns.of(names, 2, ANY);
          } catch (NotUnderstood said) {
            // then it counts as showing all it reads
          }
        }
        case ROUTINE -> RoutineText.reads(text, quote, backslashes, UnaryOperator.identity(), ANY);
        case RULE -> RuleTexts.read(text);
      }
    }
  }
}
