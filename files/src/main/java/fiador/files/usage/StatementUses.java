package fiador.files.usage;

import fiador.evidence.EvidenceBuilder;
import fiador.files.usage.SqlWords.Word;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;

/**
 * Makes uses of statements. A parser tells what a statement does and to what; what it reads is
 * taken from its words, which finds rather too much than too little: every name that a column or an
 * object of the estate has counts. So nothing that was used is ever missed.
 */
final class StatementUses {
  private final Access access;
  private final EvidenceBuilder evidence;
  private final Relations relations;

  /** By text, and by text without its numbers and what stands in quotes. */
  private final Meaning.Recent recent = new Meaning.Recent();

  private final Meaning.Recent shapes = new Meaning.Recent();

  StatementUses(Access access, EvidenceBuilder evidence) {
    this.access = access;
    this.evidence = evidence;
    this.relations = new Relations(access);
  }

  /** Adds what a statement uses, for each account that may have sent it. */
  void add(IntArrayList users, Entry entry) {
    evidence.statement();
    for (int user : users) {
      evidence.seen(user, entry.at());
    }
    Meaning meaning = meaning(new Meaning.Asked(withoutEnd(entry.statement()), entry.database()));
    for (Meaning.Needed each : meaning.uses()) {
      for (int user : users) {
        evidence.use(user, each.privilege(), each.node(), each.column(), entry.at());
      }
    }
    if (!meaning.understood()) {
      evidence.unread(entry.statement());
    }
  }

  /** A semicolon at the end is the end and no further statement. */
  private static String withoutEnd(String sql) {
    int end = sql.length();
    while (end > 0 && (sql.charAt(end - 1) == ';' || sql.charAt(end - 1) <= ' ')) {
      end--;
    }
    return sql.substring(0, end);
  }

  /** What a statement means; of one that was seen a moment ago it is known. */
  private Meaning meaning(Meaning.Asked asked) {
    Meaning known = recent.get(asked);
    if (known != null) {
      return known;
    }
    StringBuilder shape = new StringBuilder();
    List<Word> words = SqlWords.of(asked.text(), access.accounts() != null, shape);
    OneStatement one = new OneStatement(access, relations, asked, words);
    Meaning.Asked shaped = new Meaning.Asked(shape.toString(), asked.database());
    Meaning meaning = one.namesInQuotes() ? null : shapes.get(shaped);
    if (meaning == null) {
      meaning = one.meaning();
      if (!one.namesInQuotes()) {
        shapes.put(shaped, meaning);
      }
    }
    recent.put(asked, meaning);
    return meaning;
  }
}
