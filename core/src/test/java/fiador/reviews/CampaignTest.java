package fiador.reviews;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.GiveRole;
import fiador.changes.steps.TakeRole;
import fiador.effects.RandomAccess;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.reviews.Drafting.Draft;
import fiador.reviews.Returned.Row;
import fiador.reviews.Revocations.Broader;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class CampaignTest {
  private static final Instant NOW = Instant.parse("2026-01-01T00:00:00Z");
  private static final Clock CLOCK = Clock.fixed(NOW, ZoneOffset.UTC);

  private static TinyEstate estate() {
    return TinyEstate.postgresql()
        .users("ines", "rui", "boss", "owner")
        .roles("a_read", "b_read", "duty")
        .power("boss", Power.SUPERUSER)
        .owned(NodeKind.SCHEMA, "d.a", "owner")
        .owned(NodeKind.SCHEMA, "d.b", "owner")
        .owned(NodeKind.TABLE, "d.a.t", "owner", "x", "y")
        .owned(NodeKind.TABLE, "d.b.u", "owner", "x")
        .grant("a_read", "select", "d.a.t")
        .grant("b_read", "select", "d.b.u")
        .grant("rui", "insert*", "d.a.t", "x")
        .grant("PUBLIC", "select", "d.b.u")
        .member("duty", "a_read", Membership.PLAIN)
        .member("duty", "b_read", Membership.PLAIN)
        .member("ines", "duty", Membership.of(true, true, true));
  }

  private static List<Draft> drafts(Access access, Scope scope) {
    return new Drafting(access, scope, Set.of()).drafts();
  }

  private static Review review(Access access, Scope scope) {
    List<Line> lines = new ArrayList<>();
    int number = 0;
    for (Draft draft : drafts(access, scope)) {
      lines.add(
          new Line(
              Line.key(++number, draft.about(), draft.facts()),
              "r" + number % 2,
              draft.about(),
              draft.about().user(),
              String.join("; ", draft.facts()),
              draft.about().means() + " " + draft.about().through(),
              "",
              "",
              List.of(),
              draft.facts(),
              null));
    }
    return new Review("spring", "box", NOW, lines);
  }

  private static Line line(Review review, String user, Means means, String area) {
    return review.lines().stream()
        .filter(line -> line.about().user().equals(user) && line.about().means() == means)
        .filter(line -> line.about().area().equals(area))
        .findFirst()
        .orElseThrow();
  }

  private static void revoke(Review review, Line line) {
    review.decide(line.key(), new Decision(Answer.REVOKE, "", line.reviewer(), NOW));
  }

  private static Revocations.Result close(Review review, Access access, Broader broader) {
    Drafting everything = new Drafting(access, Scope.ALL, Set.of());
    return Revocations.of(review, access, everything, broader, CLOCK);
  }

  @Test
  void aLineIsOnePersonOneWayAndOneSchema() {
    Review review = review(estate().build(), Scope.ALL);
    assertThat(review.lines().stream().map(line -> line.about().toString()))
        .containsExactly(
            "Entitlement[user=ines, means=ROLE, through=duty, area=d.a]",
            "Entitlement[user=ines, means=ROLE, through=duty, area=d.b]",
            "Entitlement[user=rui, means=GRANT, through=, area=d.a]",
            "Entitlement[user=boss, means=POWER, through=superuser, area=]",
            "Entitlement[user=owner, means=OWNER, through=, area=d.a]",
            "Entitlement[user=owner, means=OWNER, through=, area=d.b]",
            "Entitlement[user=PUBLIC, means=EVERYBODY, through=, area=d.b]");
    assertThat(review.lines().get(0).facts())
        .containsExactly("may give the role on", "select on table d.a.t");
    assertThat(review.lines().get(2).facts())
        .containsExactly("insert on table d.a.t (x), may grant it on");
  }

  @Test
  void aScopeLimitsWhatIsAsked() {
    Access access = estate().build();
    Set<String> none = Set.of();
    assertThat(drafts(access, new Scope(Set.of("d.b"), none, none, Set.of("ines"))))
        .singleElement()
        .satisfies(draft -> assertThat(draft.about().area()).isEqualTo("d.b"));
    assertThat(drafts(access, new Scope(none, Set.of("d.a.t"), none, Set.of("ines")))).hasSize(1);
    assertThat(drafts(access, new Scope(none, none, Set.of("duty"), none))).hasSize(2);
  }

  @Test
  void nobodyIsAskedAboutHisOwnAccess() {
    Access access = estate().build();
    Identities people =
        new Identities(
            List.of(
                new Identity("p1", "Ines", true, "p2", "x", List.of("ines")),
                new Identity("p2", "Rui", true, "p2", "x", List.of("rui", "rui.admin")),
                new Identity("p3", "Owner", false, null, "x", List.of("owner"))));
    Reviewers byManager =
        new Reviewers(access, Reviewers.By.MANAGER, Map.of(), "fallback", people, name -> name);
    Reviewers bySchema =
        new Reviewers(access, Reviewers.By.SCHEMA, Map.of("d.b", "rui"), null, people, n -> n);
    Map<String, String> managers = new TreeMap<>();
    Map<String, String> owners = new TreeMap<>();
    for (Draft draft : drafts(access, Scope.ALL)) {
      String key = draft.about().user() + " " + draft.about().area();
      managers.put(key, byManager.of(draft));
      owners.put(key, bySchema.of(draft));
    }
    assertThat(managers)
        .containsEntry("ines d.a", "rui")
        .containsEntry("rui d.a", "fallback")
        .containsEntry("owner d.a", "fallback");
    assertThat(owners)
        .containsEntry("ines d.a", "owner")
        .containsEntry("ines d.b", "rui")
        .containsEntry("owner d.a", null)
        .containsEntry("boss ", null);
  }

  @Test
  void aRoleGoesOnlyWhereAllThatItGivesWasRevoked() {
    Access access = estate().build();
    Review review = review(access, Scope.ALL);
    revoke(review, line(review, "ines", Means.ROLE, "d.a"));
    Revocations.Result part = close(review, access, Broader.LEAVE);
    assertThat(part.gap().plan().steps()).isEmpty();
    assertThat(part.left()).hasSize(1);
    assertThat(close(review, access, Broader.SMALLER).gap().plan().steps())
        .containsExactly(
            new GiveRole("b_read", "ines", Membership.PLAIN, null, true),
            new TakeRole("duty", "ines", Membership.of(true, true, true), null, true));
    revoke(review, line(review, "ines", Means.ROLE, "d.b"));
    Revocations.Result both = close(review, access, Broader.LEAVE);
    assertThat(both.gap().plan().steps()).hasSize(1).first().isInstanceOf(TakeRole.class);
    assertThat(both.left()).isEmpty();
  }

  @Test
  void whatNoStepCanTakeIsLeftToTheAdministrator() {
    Access access = estate().build();
    Review review = review(access, Scope.ALL);
    revoke(review, line(review, "owner", Means.OWNER, "d.a"));
    revoke(review, line(review, "boss", Means.POWER, ""));
    revoke(review, line(review, "PUBLIC", Means.EVERYBODY, "d.b"));
    Revocations.Result result = close(review, access, Broader.WHOLE);
    assertThat(result.gap().plan().steps()).isEmpty();
    assertThat(result.left()).hasSize(3);
  }

  @Test
  void whatChangedMeanwhileIsSeen() {
    Review review = review(estate().build(), Scope.ALL);
    Access later =
        estate().grant("b_read", "delete", "d.b.u").grant("rui", "select", "d.b.u").build();
    Freshness today = Freshness.of(review, drafts(later, Scope.ALL));
    assertThat(today.changed()).containsExactly(line(review, "ines", Means.ROLE, "d.b"));
    assertThat(today.added()).hasSize(1);
    assertThat(today.gone()).isEmpty();
    assertThat(Freshness.of(review, drafts(estate().build(), Scope.ALL)).isFresh()).isTrue();
  }

  private static Row row(Review review, int number, Line line, String decision) {
    Map<String, String> cells = new HashMap<>();
    cells.put("line", line.key());
    cells.put("person", line.person());
    cells.put("may", line.may());
    cells.put("through", line.through());
    cells.put("decision", decision);
    cells.put("remark", "");
    cells.put("review", review.name());
    return new Row(number, cells, List.of());
  }

  private static List<Row> sheet(Review review) {
    List<Row> rows = new ArrayList<>();
    for (Line line : review.linesOf("r1")) {
      rows.add(row(review, rows.size() + 2, line, "keep"));
    }
    return rows;
  }

  private static List<String> problems(Review review, List<Row> rows) {
    return Returned.of(review, Returned.COLUMNS, rows).problems();
  }

  @Test
  void aSheetMayComeBackInAnyOrderAndWithLinesLeftOpen() {
    Review review = review(estate().build(), Scope.ALL);
    List<Row> rows = new ArrayList<>(sheet(review));
    java.util.Collections.reverse(rows);
    rows.set(0, row(review, 2, review.linesOf("r1").get(3), ""));
    Returned returned = Returned.of(review, Returned.COLUMNS, rows);
    assertThat(returned.problems()).isEmpty();
    assertThat(returned.reviewer()).isEqualTo("r1");
    assertThat(returned.answers()).hasSize(3);
  }

  @Test
  void everythingThatIsWrongWithASheetIsToldRowByRow() {
    Review review = review(estate().build(), Scope.ALL);
    List<Row> missing = new ArrayList<>(sheet(review));
    missing.remove(1);
    assertThat(problems(review, missing)).singleElement().asString().endsWith("is missing");
    List<Row> wrong = new ArrayList<>(sheet(review));
    wrong.get(0).cells().put("decision", "maybe");
    wrong.get(1).cells().put("person", "somebody else");
    wrong.get(2).cells().put("review", "autumn");
    wrong.set(3, row(review, 5, review.linesOf("r0").get(0), "keep"));
    assertThat(problems(review, wrong))
        .anyMatch(text -> text.startsWith("row 2: \"maybe\" is no decision"))
        .anyMatch(text -> text.startsWith("row 3: \"person\" is not what line "))
        .anyMatch(text -> text.startsWith("row 4: it belongs to the review autumn"))
        .anyMatch(text -> text.startsWith("row 5: line ") && text.endsWith("is for r0, not r1"));
    List<Row> twice = new ArrayList<>(sheet(review));
    twice.add(row(review, 9, review.linesOf("r1").get(0), "revoke"));
    assertThat(problems(review, twice)).singleElement().asString().contains("is already in row 2");
    Row formula = sheet(review).get(0);
    List<Row> computed = new ArrayList<>(sheet(review));
    computed.set(0, new Row(2, formula.cells(), List.of("decision")));
    assertThat(problems(review, computed)).singleElement().asString().contains("holds a formula");
    assertThat(Returned.of(review, List.of("line"), sheet(review)).problems())
        .contains("the column \"decision\" is missing");
  }

  @Property(tries = 400)
  void whatIsRevokedGoesAndAllElseStays(@ForAll long seed) {
    Random random = new Random(seed);
    Access access = RandomAccess.of(seed);
    Review review = review(access, Scope.ALL);
    for (Line line : review.lines()) {
      if (random.nextInt(3) == 0) {
        revoke(review, line);
      }
    }
    for (Broader broader : Broader.values()) {
      Revocations.Result result = close(review, access, broader);
      Set<Line> left = new HashSet<>();
      result.left().forEach(each -> left.add(each.line()));
      Map<String, Set<String>> stays = new LinkedHashMap<>();
      Map<String, Set<String>> goes = new LinkedHashMap<>();
      for (Line line : review.lines()) {
        boolean gone = review.decision(line.key()) != null && !left.contains(line);
        (gone ? goes : stays)
            .computeIfAbsent(line.about().user(), none -> new TreeSet<>())
            .addAll(line.facts());
      }
      Map<String, Set<String>> after = new LinkedHashMap<>();
      Access then = result.gap().outcome().after();
      for (Draft draft : drafts(then, Scope.ALL)) {
        after.computeIfAbsent(draft.about().user(), none -> new TreeSet<>()).addAll(draft.facts());
      }
      for (int user = 1; user < access.principals().size(); user++) {
        String name = access.principals().name(user);
        Set<String> has = after.getOrDefault(name, Set.of());
        Set<String> keeps = stays.getOrDefault(name, Set.of());
        Set<String> all = new TreeSet<>(keeps);
        all.addAll(goes.getOrDefault(name, Set.of()));
        assertThat(all).containsAll(has);
        Set<String> lost = new TreeSet<>(goes.getOrDefault(name, Set.of()));
        lost.removeAll(keeps);
        lost.retainAll(has);
        assertThat(lost).isEmpty();
        if (broader != Broader.WHOLE) {
          Set<String> missing = new TreeSet<>(keeps);
          missing.removeAll(has);
          missing.remove(Drafting.MAY_GIVE_ON);
          assertThat(missing).isEmpty();
        }
      }
    }
  }

  @Test
  void theRandomReviewsTakeSomething() {
    int taken = 0;
    int smaller = 0;
    for (long seed = 0; seed < 400; seed++) {
      Access access = RandomAccess.of(seed);
      Review review = review(access, Scope.ALL);
      Random random = new Random(seed);
      review.lines().stream()
          .filter(line -> random.nextInt(3) == 0)
          .forEach(l -> revoke(review, l));
      taken += close(review, access, Broader.LEAVE).gap().plan().steps().isEmpty() ? 0 : 1;
      smaller +=
          close(review, access, Broader.SMALLER).gap().plan().steps().stream()
                  .anyMatch(step -> step instanceof GiveRole)
              ? 1
              : 0;
    }
    assertThat(taken).isGreaterThan(200);
    assertThat(smaller).isGreaterThan(0);
  }
}
