package fiador.files.charter;

import com.github.difflib.DiffUtils;
import com.github.difflib.UnifiedDiffUtils;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.Wanted.Member;
import fiador.changes.wanted.Wanted.Place;
import fiador.grants.rules.HouseRules;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Writes what steps do as edits of the charter's own text: a unified diff that keeps comments and
 * order, for {@code git apply} or to read. What a pattern makes, and what "every ... in" gives,
 * stands in words that mean more than what is to go; it is counted and left to the reader.
 */
public final class CharterPatch {
  private static final int AROUND = 3;
  private static final Pattern COMMENT = Pattern.compile("\\s+#.*$");
  private static final Pattern BEHIND_ROLE =
      Pattern.compile("(?!\\s+#)[^,\\]#]*?(?=\\s*([,\\]#]|$))");
  private static final Pattern KEY_ALONE = Pattern.compile("\\s*[\\w.\"]+:\\s*(#.*)?");

  private final Path folder;
  private final Map<String, List<Edit>> edits = new TreeMap<>();
  private int left;

  /** Takes something out of a list, or puts others in its place. */
  record Edit(Place place, String text, List<String> instead) {}

  /**
   * A patch.
   *
   * @param text the diff; empty when nothing can be said so
   * @param made how many steps it stands for
   * @param left how many steps cannot be said as such an edit
   */
  public record Result(String text, int made, int left) {}

  private CharterPatch(Path folder) {
    this.folder = folder;
  }

  /**
   * The edits of a charter that stand for steps on a server.
   *
   * @param folder where the charter's files are
   * @param rules how the server writes names
   */
  public static Result of(Path folder, Charter charter, HouseRules rules, List<Step> steps)
      throws IOException {
    CharterPatch patch = new CharterPatch(folder);
    int made = patch.collect(charter, rules, steps);
    StringBuilder text = new StringBuilder();
    for (Map.Entry<String, List<Edit>> file : patch.edits.entrySet()) {
      patch.write(file.getKey(), file.getValue(), text);
    }
    return new Result(text.toString(), made, patch.left);
  }

  private int collect(Charter charter, HouseRules rules, List<Step> steps) throws IOException {
    // a smaller role takes the place of one that is taken from the same member
    Map<String, Deque<GiveRole>> given = new HashMap<>();
    for (Step step : steps) {
      if (step instanceof GiveRole give) {
        given.computeIfAbsent(give.member(), none -> new ArrayDeque<>()).add(give);
      }
    }
    int made = 0;
    SentenceEdits sentences = new SentenceEdits(charter, rules, this::itemAt);
    for (Step step : steps) {
      if (step instanceof GiveRole) {
        continue;
      }
      if (step instanceof Revoke revoke && sentences.take(revoke)) {
        made++;
        continue;
      }
      Member found = step instanceof TakeRole take ? written(charter, rules, take) : null;
      if (found == null) {
        left++;
        continue;
      }
      TakeRole take = (TakeRole) step;
      GiveRole instead = given.getOrDefault(take.member(), new ArrayDeque<>()).poll();
      String charterName = instead == null ? null : named(charter, rules, instead.role());
      edits
          .computeIfAbsent(found.place().file(), none -> new ArrayList<>())
          .add(
              new Edit(
                  found.place(),
                  charterName == null ? wholeAt(found) : found.role(),
                  charterName == null ? List.of() : List.of(charterName)));
      made++;
    }
    for (Edit edit : sentences.edits()) {
      edits.computeIfAbsent(edit.place().file(), none -> new ArrayList<>()).add(edit);
    }
    return made;
  }

  /** Where the charter says so, if it does in so many words. */
  private Member written(Charter charter, HouseRules rules, TakeRole take) throws IOException {
    for (Member member : charter.wanted().memberships()) {
      boolean same =
          isNamed(member.member(), rules, take.member())
              && isNamed(member.role(), rules, take.role());
      if (same && textAt(member.place()).startsWith(member.role())) {
        return member;
      }
    }
    return null;
  }

  private static boolean isNamed(String written, HouseRules rules, String stored) {
    return stored.equals(written) || stored.equals(rules.fold(written));
  }

  private static String named(Charter charter, HouseRules rules, String stored) {
    return charter.wanted().roles().stream()
        .map(role -> role.name())
        .filter(name -> isNamed(name, rules, stored))
        .findFirst()
        .orElse(stored);
  }

  /** An item of a list that has its line to itself, without the comment behind it; else null. */
  private String itemAt(Place place) {
    try {
      List<String> lines = Files.readAllLines(folder.resolve(place.file()));
      String line = lines.get(place.line() - 1);
      return isDash(line.substring(0, place.column() - 1))
          ? COMMENT.matcher(textAt(place)).replaceFirst("").stripTrailing()
          : null;
    } catch (IOException gone) {
      throw new UncheckedIOException(gone);
    }
  }

  private static boolean isDash(String head) {
    return head.strip().equals("-");
  }

  /** A role in a list with how and when it is held, to the comma or the end behind it. */
  private String wholeAt(Member member) throws IOException {
    String text = textAt(member.place());
    Matcher rest = BEHIND_ROLE.matcher(text.substring(member.role().length()));
    return member.role() + (rest.lookingAt() ? rest.group() : "");
  }

  private String textAt(Place place) throws IOException {
    List<String> lines = Files.readAllLines(folder.resolve(place.file()));
    String line = place.line() <= lines.size() ? lines.get(place.line() - 1) : "";
    return place.column() <= line.length() ? line.substring(place.column() - 1) : "";
  }

  private void write(String file, List<Edit> inFile, StringBuilder text) throws IOException {
    List<String> before = Files.readAllLines(folder.resolve(file));
    List<String> after = new ArrayList<>(before);
    // from the end, so that places stay where they are
    inFile.sort(
        Comparator.comparingInt((Edit edit) -> edit.place().line())
            .thenComparingInt(edit -> edit.place().column())
            .reversed());
    for (Edit edit : inFile) {
      int at = edit.place().line() - 1;
      String line = after.get(at);
      int start = edit.place().column() - 1;
      int end = start + edit.text().length();
      String head = line.substring(0, start);
      if (edit.instead().isEmpty()) {
        remove(after, at, start, end);
        continue;
      }
      after.set(at, head + edit.instead().get(0) + line.substring(end));
      for (int i = 1; i < edit.instead().size(); i++) {
        after.add(at + i, head + edit.instead().get(i));
      }
    }
    var diff = DiffUtils.diff(before, after);
    for (String line :
        UnifiedDiffUtils.generateUnifiedDiff("a/" + file, "b/" + file, before, diff, AROUND)) {
      text.append(line).append('\n');
    }
  }

  /** Takes an item of a list away, with the key before it when it was the only one. */
  private static void remove(List<String> lines, int at, int start, int end) {
    String line = lines.get(at);
    if (!isDash(line.substring(0, start))) {
      lines.set(at, without(line, start, end));
      return;
    }
    lines.remove(at);
    boolean more = at < lines.size() && lines.get(at).startsWith(line.substring(0, start));
    if (!more && at > 0 && KEY_ALONE.matcher(lines.get(at - 1)).matches()) {
      lines.remove(at - 1);
    }
  }

  /** A line without an item of a list in brackets, and without the comma that went with it. */
  private static String without(String line, int start, int end) {
    String head = line.substring(0, start);
    String tail = line.substring(end);
    if (tail.stripLeading().startsWith(",")) {
      return head + tail.stripLeading().substring(1).stripLeading();
    }
    String bare = head.stripTrailing();
    return (bare.endsWith(",") ? bare.substring(0, bare.length() - 1) : head) + tail;
  }
}
