package fiador.cli;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * A made-up survey of many tables and people, some of whom a gate keeps out: its answers are long
 * enough to be summed up, and name what stands in the way, as those of the tour's never do.
 */
final class WideSurvey {
  /** Somebody who holds much. */
  static final String BUSY = "busy";

  /** Somebody whom a gate keeps out of all that was given. */
  static final String SHUT_OUT = "shut_out";

  /** What both hold, and everybody else. */
  static final String TABLE = "wide.table_1";

  private static final int BOTH = 200;

  private WideSurvey() {}

  /** Writes it. */
  static void write(Path file) throws IOException {
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      line(
          out,
          "'fiador_survey':1,'server':'wide','kind':'postgresql','version':'18','taken':'2026-01-01T00:00:00Z'");
      for (int id = 1; id <= BOTH; id++) {
        line(out, "'principal':%d,'name':'%s','kind':'user'".formatted(id, name(id)));
      }
      line(out, "'principal':%d,'name':'through','kind':'role'".formatted(BOTH + 1));
      line(out, "'node':0,'kind':'server','name':'wide'");
      line(out, "'node':1,'in':0,'kind':'database','name':'wide'");
      line(out, "'node':2,'in':1,'kind':'schema','name':'wide'");
      for (int node = 1; node <= BOTH; node++) {
        String columns = "'columns':['a','b'],'types':['integer','text']";
        String table =
            "'node':%d,'in':2,'kind':'table','name':'table_%d'".formatted(node + 2, node);
        line(out, table + "," + columns);
      }
      for (int id = 1; id <= BOTH; id++) {
        line(out, "'member':%d,'of':%d,'options':['inherit','set']".formatted(id, BOTH + 1));
      }
      line(out, "'grant':['connect'],'on':1,'to':0");
      line(out, "'grant':['usage'],'on':2,'to':1");
      for (int node = 1; node <= BOTH; node++) {
        line(out, "'grant':['select','insert'],'on':%d,'to':%d".formatted(node + 2, BOTH + 1));
      }
      // PUBLIC is a principal too
      String end = "'end':true,'principals':%d,'nodes':%d,'memberships':%d,'grants':%d";
      line(out, end.formatted(BOTH + 2, BOTH + 3, BOTH, BOTH + 2));
    }
  }

  private static String name(int id) {
    return switch (id) {
      case 1 -> BUSY;
      case 2 -> SHUT_OUT;
      default -> "user_" + id;
    };
  }

  private static void line(BufferedWriter out, String fields) throws IOException {
    out.write("{" + fields.replace('\'', '"') + "}\n");
  }
}
