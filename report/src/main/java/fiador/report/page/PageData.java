package fiador.report.page;

import com.fasterxml.jackson.databind.ObjectMapper;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.policies.AnyWay;
import fiador.policies.Seeing;
import fiador.report.pictures.OwnRights;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import fiador.report.text.FindingText;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.GZIPOutputStream;
import org.jspecify.annotations.Nullable;

/**
 * Packs what a page shows: users, roles and things by number, who holds what in which state, ways
 * round, findings, a matrix and a picture.
 */
public final class PageData {
  private static final int LEFT_OUT = -1;
  private static final int MOST_COLUMNS = 100_000;

  private final Access access;
  private final Tree tree;
  private final Scope scope;
  private final Clock clock;
  private final Shown shown;
  private final int[] personOf;
  private final int[] thingOf;
  private final List<Integer> people = new ArrayList<>();
  private final List<Integer> things = new ArrayList<>();
  private final List<Integer> schemas = new ArrayList<>();

  /** Texts that stand in many places, with how many privileges they are. */
  private final Map<List<Object>, Integer> words = new LinkedHashMap<>();

  private PageData(Access access, Scope scope, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.scope = scope;
    this.clock = clock;
    this.shown = Shown.brief(access);
    this.personOf = new int[access.principals().size()];
    this.thingOf = new int[tree.size()];
    Arrays.fill(personOf, LEFT_OUT);
    Arrays.fill(thingOf, LEFT_OUT);
    // PUBLIC is always number 0, as the script knows
    number(Principals.PUBLIC, personOf, people);
    scope.people().stream().forEach(id -> number(id, personOf, people));
    scope.things().stream().forEach(node -> number(node, thingOf, things));
  }

  private static void number(int id, int[] numberOf, List<Integer> all) {
    if (numberOf[id] == LEFT_OUT) {
      numberOf[id] = all.size();
      all.add(id);
    }
  }

  /**
   * The page.
   *
   * @param supplement findings and other things that go with the estate
   */
  public static String html(Access access, Scope scope, Supplement supplement, Clock clock)
      throws IOException {
    Map<String, Object> document = document(access, scope, supplement, clock);
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (GZIPOutputStream out = new GZIPOutputStream(packed)) {
      new ObjectMapper().writeValue(out, document);
    }
    Shown shown = Shown.brief(access);
    String taken =
        access.about().taken() == null ? "" : ", taken " + Shown.time(access.about().taken());
    String said = scope.said().isEmpty() ? "" : "; only " + scope.said();
    return EstatePage.html(
        shown.path(0),
        shown.origin(clock.instant()) + " when this page was made" + taken + said,
        packed.toByteArray());
  }

  /** What is packed, as the script reads it. */
  static Map<String, Object> document(
      Access access, Scope scope, Supplement supplement, Clock clock) {
    PageData data = new PageData(access, scope, clock);
    Map<String, Object> all = new LinkedHashMap<>();
    all.put("server", data.shown.path(0));
    all.put(
        "scope", scope.said().isEmpty() ? "" : "This page holds " + scope.said() + " and no more.");
    all.put("principals", data.people.stream().map(data::principal).toList());
    all.put("things", data.things.stream().map(data::thing).toList());
    all.put("schemas", data.schemas.stream().map(data.shown::path).toList());
    all.put("columns", data.columns());
    all.put("members", data.members());
    all.put("rights", data.rights());
    all.put("held", data.held());
    all.put("sees", data.sees());
    all.put("around", data.around());
    all.put(
        "findings",
        supplement.findings().stream().filter(data::isMeant).map(data::finding).toList());
    all.put("unlooked", supplement.notLooked());
    all.put("gap", data.gap(supplement));
    all.put("history", scope.whole() ? data.history(supplement) : List.of());
    all.put("over_time", scope.whole() ? overTime(supplement) : List.of());
    Drawn drawn = new Drawn(access, scope, clock);
    all.put("matrix", drawn.matrix());
    all.put("figure", drawn.figure());
    all.put("words", List.copyOf(data.words.keySet()));
    return all;
  }

  private int word(String text, int count) {
    return words.computeIfAbsent(List.of(text, count), fresh -> words.size());
  }

  private List<Object> principal(int id) {
    boolean user = id != Principals.PUBLIC && access.principals().isUser(id);
    String why = user ? NoLogin.why(access, id, clock.instant()) : null;
    return List.of(shown.principal(id), user ? 1 : 0, why == null ? "" : "Cannot log in: " + why);
  }

  private List<Object> thing(int node) {
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    int at = schema < 0 ? LEFT_OUT : schemas.indexOf(schema);
    if (schema >= 0 && at < 0) {
      at = schemas.size();
      schemas.add(schema);
    }
    return List.of(shown.path(node), tree.kind(node).text(), at);
  }

  /** Of each thing its columns; none at all where there are more than anybody searches. */
  private List<List<Integer>> columns() {
    long count = things.stream().mapToLong(tree::columns).sum();
    List<List<Integer>> all = new ArrayList<>();
    for (int node : count > MOST_COLUMNS ? List.<Integer>of() : things) {
      List<Integer> columns = new ArrayList<>();
      for (int ordinal = 0; ordinal < tree.columns(node); ordinal++) {
        columns.add(word(shown.column(node, ordinal), 0));
      }
      all.add(columns);
    }
    return all;
  }

  private List<List<Integer>> members() {
    List<List<Integer>> found = new ArrayList<>();
    for (int edge = 0; edge < access.memberships().size(); edge++) {
      Membership how = access.memberships().options(edge);
      int member = personOf[access.memberships().member(edge)];
      int role = personOf[access.memberships().role(edge)];
      if (member >= 0 && role >= 0 && (how.inherit() || how.set())) {
        found.add(List.of(member, role, how.inherit() ? 0 : 1, how.admin() ? 1 : 0));
      }
    }
    return found;
  }

  private List<List<Integer>> rights() {
    OwnRights own = new OwnRights(access, true);
    List<List<Integer>> all = new ArrayList<>();
    for (int id : people) {
      List<Integer> rights = new ArrayList<>();
      for (OwnRights.Right right : own.of(id)) {
        if (thingOf[right.node()] >= 0) {
          rights.add(thingOf[right.node()]);
          rights.add(word(right.label(), 0));
        }
      }
      all.add(rights);
    }
    return all;
  }

  /** Of each user the things, privileges and states, those alike in one. */
  private List<List<Integer>> held() {
    record Key(int user, int node, State state, boolean grantable, @Nullable BitSet columns) {}
    Map<Key, Long> sums = new LinkedHashMap<>();
    for (Holding row : scope.held()) {
      Key key = new Key(row.user(), row.node(), row.state(), row.grantable(), row.columns());
      sums.merge(key, row.privilege().bit(), (one, other) -> one | other);
    }
    List<List<Integer>> all = new ArrayList<>();
    people.forEach(id -> all.add(new ArrayList<>()));
    sums.forEach(
        (key, bits) -> {
          String columns =
              key.columns() == null ? "" : " (" + shown.columns(key.node(), key.columns()) + ")";
          String text =
              PrivilegeSet.text(bits) + columns + (key.grantable() ? ", may give it on" : "");
          List<Integer> rows = all.get(personOf[key.user()]);
          rows.add(thingOf[key.node()]);
          rows.add(word(text, Long.bitCount(bits)));
          rows.add(key.state().ordinal());
        });
    return all;
  }

  /** Which rows and which masked values somebody gets, as far as they can read the columns. */
  private List<List<Integer>> sees() {
    record Pair(int user, int node) {}
    Seeing seeing = new Seeing(access);
    Map<Pair, BitSet> readable = new LinkedHashMap<>();
    for (Holding row : scope.held()) {
      if (row.privilege() == Privilege.SELECT && seeing.decides(row.node())) {
        BitSet columns =
            readable.computeIfAbsent(new Pair(row.user(), row.node()), fresh -> new BitSet());
        if (row.columns() == null) {
          columns.set(0, tree.columns(row.node()));
        } else {
          columns.or(row.columns());
        }
      }
    }
    List<List<Integer>> found = new ArrayList<>();
    readable.forEach(
        (pair, columns) -> {
          String said = sight(seeing.of(pair.user(), pair.node()), pair.node(), columns);
          if (!said.isEmpty()) {
            found.add(List.of(personOf[pair.user()], thingOf[pair.node()], word(said, 0)));
          }
        });
    return found;
  }

  private String sight(Seeing.@Nullable Answer answer, int node, BitSet columns) {
    if (answer == null || answer.exempt() != null) {
      return "";
    }
    if (!answer.isKnown()) {
      return "which rows is not known";
    }
    List<String> parts = new ArrayList<>();
    if (answer.seen().noRows()) {
      parts.add("no rows");
    } else if (!answer.seen().allRows()) {
      parts.add("rows: " + shown.predicate(answer.seen().condition()));
    }
    List<String> masked =
        answer.seen().masks().keySet().stream()
            .map(name -> tree.columnNamed(node, name))
            .filter(column -> column != None.COLUMN && columns.get(column))
            .map(column -> shown.column(node, column))
            .toList();
    if (!masked.isEmpty()) {
      parts.add("masked: " + String.join(", ", masked));
    }
    return String.join("; ", parts);
  }

  /** Ways to a thing's values for those who have no right on it, as far as all of it is here. */
  private List<List<Integer>> around() {
    List<List<Integer>> found = new ArrayList<>();
    AnyWay anyWay = new AnyWay(access, clock);
    for (int node : things) {
      for (AnyWay.Way way : anyWay.of(node, None.COLUMN)) {
        if (way.path().stream().allMatch(each -> thingOf[each] >= 0)) {
          way.readers().forEach(reader -> found.add(around(node, way, reader)));
        }
      }
    }
    return found;
  }

  private List<Integer> around(int node, AnyWay.Way way, AnyWay.Reader reader) {
    List<String> path =
        way.path().subList(0, way.path().size() - 1).stream().map(shown::path).toList();
    List<String> got = new ArrayList<>();
    add(got, "", node, reader.asIs());
    add(got, "worked out: ", node, reader.workedOut());
    add(got, "masked: ", node, reader.masked());
    return List.of(
        thingOf[node],
        word(String.join(" › ", path), 0),
        personOf[reader.user()],
        word(String.join("; ", got), 0),
        reader.state().ordinal());
  }

  private void add(List<String> to, String what, int node, BitSet columns) {
    if (!columns.isEmpty()) {
      to.add(what + shown.columns(node, columns));
    }
  }

  /** Who gains and loses what by settling, as names; null where there is no charter. */
  private @Nullable List<List<Object>> gap(Supplement supplement) {
    Access after = supplement.after();
    if (supplement.gap() == null || after == null) {
      return null;
    }
    Shown names = Shown.brief(after);
    List<List<Object>> found = new ArrayList<>();
    for (Change change : supplement.gap()) {
      boolean inside =
          scope.whole()
              || change.node() < thingOf.length
                  && thingOf[change.node()] >= 0
                  && change.user() < personOf.length
                  && personOf[change.user()] >= 0;
      if (inside && (change.isGain() || change.isLoss())) {
        String columns =
            change.columns() == null
                ? ""
                : " (" + names.columns(change.node(), change.columns()) + ")";
        found.add(
            List.of(
                names.principal(change.user()),
                names.path(change.node()),
                change.isGain() ? 1 : 0,
                change.privilege().text() + columns));
      }
    }
    return found;
  }

  private static List<List<Object>> overTime(Supplement supplement) {
    return supplement.overTime().stream()
        .map(count -> List.of(count.when(), (Object) count.users()))
        .toList();
  }

  private List<List<Object>> history(Supplement supplement) {
    return supplement.history().stream()
        .map(past -> List.of(past.when(), (Object) past.lines()))
        .toList();
  }

  /** Whether all that a finding names is in the page. */
  private boolean isMeant(Finding found) {
    boolean known =
        scope.whole()
            || found.node() >= 0
                && thingOf[found.node()] >= 0
                && (found.principal() < 0 || personOf[found.principal()] >= 0);
    return known && found.said().parts().stream().allMatch(this::isKnown);
  }

  private boolean isKnown(Phrase.Part part) {
    return scope.whole()
        || part instanceof Phrase.Words
        || part instanceof Phrase.Who who && personOf[who.principal()] >= 0
        || part instanceof Phrase.Where where && thingOf[where.node()] >= 0;
  }

  private List<Object> finding(Finding found) {
    return List.of(
        found.asked().id(),
        found.asked().severity().text(),
        found.principal() < 0 ? LEFT_OUT : personOf[found.principal()],
        found.node() < 0 ? LEFT_OUT : thingOf[found.node()],
        FindingText.words(found.said(), shown),
        found.asked().question());
  }
}
