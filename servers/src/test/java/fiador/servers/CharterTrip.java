package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.RandomSteps;
import fiador.changes.adopting.Adoption;
import fiador.changes.outcome.Outcome;
import fiador.changes.steps.AddOption;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.Places;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Period;
import fiador.changes.wanted.Wanted;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.files.charter.AdoptionWriter;
import fiador.files.charter.AdoptionWriter.ServerPart;
import fiador.files.charter.CharterReader;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.houses.HouseSheet;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.servers.live.SettleRun;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;

/**
 * From what is on a real server to a charter, to another charter and back: a charter drafted from a
 * survey leaves no gap; settling another one leaves no gap to that; on the way nobody holds what he
 * holds neither before nor after; and settling the first again leads back.
 */
public final class CharterTrip {
  private static final Clock CLOCK = Clock.systemUTC();

  /** So often it is looked at what everybody holds on the way, which takes a survey each time. */
  private static final int LOOKS = 8;

  private final Server server;
  private final Login login;
  private final String what;
  private final String sheet;

  private CharterTrip(Server server, Login login, String what, String sheet) {
    this.server = server;
    this.login = login;
    this.what = what;
    this.sheet = sheet;
  }

  /** The charter drafted from what is there leaves no gap. */
  public static void adopted(Server server, Login login, long seed) throws Exception {
    adopted(server, login, seed, null);
  }

  /**
   * The same on a server that a house sheet describes.
   *
   * @param sheet its text, where it does not come along
   */
  public static void adopted(Server server, Login login, long seed, String sheet) throws Exception {
    new CharterTrip(server, login, "seed " + seed, sheet).adopt(RoundTrip.survey(server, login));
  }

  /** Does all of it; gives how many steps there were. */
  public static int of(Server server, Login login, long seed) throws Exception {
    return of(server, login, seed, null);
  }

  /**
   * The same on a server that a house sheet describes.
   *
   * @param sheet its text, where it does not come along
   */
  public static int of(Server server, Login login, long seed, String sheet) throws Exception {
    return new CharterTrip(server, login, "seed " + seed, sheet).go(new Random(seed));
  }

  private int go(Random random) throws Exception {
    Access before = RoundTrip.survey(server, login);
    Wanted asItIs = adopt(before);
    Wanted plain =
        thinned(charterOf(Outcome.of(before, RandomSteps.of(before, random, 15)).after()), random);
    // the policies made up here have lookups and digests, which no sheet has statements for
    boolean sheet = HouseSheet.describes(server.kind());
    Wanted other = sheet ? plain : RandomMasks.on(plain, before, random);
    int steps = settle(before, other, what + " there");
    steps += end(RoundTrip.survey(server, login), other, random);
    settle(RoundTrip.survey(server, login), other, what + " there again");
    Access after = RoundTrip.survey(server, login);
    adopt(after);
    steps += settle(after, RandomMasks.with(asItIs, RandomMasks.NONE), what + " and back");
    // what somebody else had given is now given by whoever settles
    RoundTrip.same(given(before), given(RoundTrip.survey(server, login)), what + " back");
    return steps;
  }

  /**
   * Takes what has ended of a settled charter, and nothing else: then there is no gap to the
   * charter without it.
   */
  private int end(Access before, Wanted wanted, Random random) throws Exception {
    Period over = new Period(null, CLOCK.instant().minusSeconds(60));
    Wanted timed =
        new Wanted(
            wanted.roles(),
            wanted.users(),
            wanted.memberships().stream()
                .map(one -> random.nextInt(5) == 0 ? one.at(over) : one)
                .toList(),
            wanted.grants().stream()
                .map(one -> random.nextInt(5) == 0 ? one.at(over) : one)
                .toList(),
            wanted.refused(),
            wanted.owned(),
            wanted.governs(),
            wanted.sight());
    Gap gap = Gap.ended(before, timed, Set.of(login.user()), CLOCK);
    assertThat(gap.plan().problems()).as(what + " ended").isEmpty();
    List<Step> steps = gap.plan().steps();
    Set<List<Object>> either = working(before);
    // where one role is on at login, the next one is when that goes
    either.addAll(working(gap.outcome().after()));
    carryOut(steps, either, what + " ended");
    Access after = RoundTrip.survey(server, login);
    String all = what + " ended: " + steps;
    // HSQLDB does not tell the options of a role that nobody holds any more
    assertThat(gap(after, timed).plan().steps())
        .as(all)
        .allMatch(step -> step instanceof AddOption && server.kind().equals("hsqldb"));
    RoundTrip.same(RoundTrip.all(gap.outcome().after()), RoundTrip.all(after), all);
    return steps.size();
  }

  /** All holdings but of what no statement gives, because it only comes with all privileges. */
  private static List<String> given(Access access) {
    List<String> rows = RoundTrip.all(access);
    PrivilegeSet.list(access.rules().neverGranted())
        .forEach(never -> rows.removeIf(row -> row.contains(" " + never + " ")));
    return rows;
  }

  private Wanted adopt(Access before) throws Exception {
    Wanted asItIs = charterOf(before);
    Gap none = gap(before, asItIs);
    assertThat(none.plan().problems()).as(what + " adopted").isEmpty();
    assertThat(none.plan().steps()).as(what + " adopted").isEmpty();
    return asItIs;
  }

  private Gap gap(Access access, Wanted wanted) {
    return Gap.between(access, wanted, true, Set.of(login.user()), CLOCK);
  }

  private int settle(Access before, Wanted wanted, String how) throws Exception {
    Gap gap = gap(before, wanted);
    assertThat(gap.plan().problems()).as(how).isEmpty();
    List<Step> steps = gap.plan().steps();
    Set<List<Object>> either = working(gap.before());
    either.addAll(working(gap.outcome().after()));
    List<String> done = carryOut(steps, either, how);
    Access after = RoundTrip.survey(server, login);
    String all = how + ": " + String.join(";\n", done);
    assertThat(gap(after, wanted).plan().steps()).as(all).isEmpty();
    RoundTrip.same(rows(gap.outcome().after(), steps), rows(after, steps), all);
    return steps.size();
  }

  /**
   * All holdings by the names that tables have while they stand aside, but for those in the guarded
   * schema and on views that went.
   */
  private static List<String> rows(Access access, List<Step> steps) {
    List<String> rows = new ArrayList<>();
    Set<String> gone = new HashSet<>();
    Map<String, String> aside = new HashMap<>();
    for (Step step : steps) {
      if (step instanceof ShowSafely show && show.after() == null) {
        gone.add("VIEW" + String.join(".", show.before().view().parts()));
      } else if (step instanceof MoveTable move && !move.aside()) {
        aside.put(String.join(".", move.to().parts()), String.join(".", move.from().parts()));
      }
    }
    Tree tree = access.tree();
    Holdings holdings = new Holdings(access, CLOCK, false);
    for (int user = 1; user < access.principals().size(); user++) {
      for (Holding row :
          access.principals().isUser(user) ? holdings.of(user) : List.<Holding>of()) {
        int node = row.node();
        String path = String.join(".", node == 0 ? List.of("") : Places.on(tree, node).parts());
        boolean left = gone.contains(tree.kind(node) + path);
        if (!left && !isGuarded(tree, node)) {
          String name = tree.kind(node) == NodeKind.TABLE ? aside.getOrDefault(path, path) : path;
          List<Object> cells = new ArrayList<>();
          cells.add(access.principals().name(user));
          cells.add(row.privilege());
          cells.add(tree.kind(node));
          cells.add(name);
          cells.add(String.valueOf(row.columns()));
          cells.add(row.state());
          cells.add(row.grantable());
          rows.add(cells.toString());
        }
      }
    }
    rows.sort(null);
    return rows;
  }

  private static boolean isGuarded(Tree tree, int node) {
    return tree.path(node).toLowerCase(Locale.ROOT).contains("fiador_guard");
  }

  /** Runs the steps, on the way of which nobody holds anything else; gives what was sent. */
  private List<String> carryOut(List<Step> steps, Set<List<Object>> either, String how) {
    int every = 1 + steps.size() / LOOKS;
    SettleRun run = new SettleRun(server, login, user -> "secret".toCharArray());
    List<String> done = new ArrayList<>();
    try {
      run.carryOut(
          steps,
          new SettleRun.Witness() {
            @Override
            public void begins(List<Step> some) {}

            @Override
            public void done(List<Step> some, String sql) {
              done.add(sql);
              if (!server.dialect().transactional() && done.size() % every == 0) {
                Set<List<Object>> more = working(surveyed());
                more.removeAll(either);
                assertThat(more).as(how + ", on the way after " + done + " of " + steps).isEmpty();
              }
            }
          });
    } catch (ServerException refused) {
      throw new AssertionError(how + ": " + String.join(";\n", done), refused);
    }
    return done;
  }

  private Access surveyed() {
    try {
      return RoundTrip.survey(server, login);
    } catch (ServerException broken) {
      throw new AssertionError(broken);
    }
  }

  private Wanted charterOf(Access access) throws Exception {
    Path folder = Files.createTempDirectory("adopted");
    try {
      ServerPart part = new ServerPart("it", access.rules().kind(), "jdbc:hsqldb:mem:x", "SA");
      AdoptionWriter.write(folder, part, Adoption.of(access, true));
      if (sheet != null) {
        String kind = access.rules().kind();
        Files.writeString(
            folder.resolve(kind.substring(kind.indexOf('/') + 1) + ".house.yaml"), sheet);
      }
      return CharterReader.read(folder, name -> null).wanted();
    } finally {
      try (Stream<Path> files = Files.walk(folder)) {
        files.sorted(Comparator.reverseOrder()).forEach(file -> file.toFile().delete());
      }
    }
  }

  /** With less in it: some memberships and grants, and some rights to give on. */
  private static Wanted thinned(Wanted wanted, Random random) {
    List<Wanted.Member> members = new ArrayList<>();
    for (Wanted.Member one : wanted.memberships()) {
      Membership how = one.how();
      boolean less = how.admin() && random.nextInt(3) == 0;
      if (random.nextInt(8) > 0) {
        members.add(less ? one.with(Membership.of(false, how.inherit(), how.set())) : one);
      }
    }
    List<Wanted.Grant> grants = new ArrayList<>();
    for (Wanted.Grant one : wanted.grants()) {
      boolean option = one.grantOption() && random.nextInt(3) > 0;
      if (random.nextInt(8) > 0) {
        grants.add(one.with(option));
      }
    }
    return new Wanted(
        wanted.roles(),
        wanted.users(),
        members,
        grants,
        wanted.refused(),
        wanted.owned(),
        wanted.governs(),
        wanted.sight());
  }

  /** What works for whom, cell by cell; of a whole object each column and the object itself. */
  private static Set<List<Object>> working(Access access) {
    Holdings holdings = new Holdings(access, CLOCK, false);
    Set<List<Object>> cells = new HashSet<>();
    for (int user = 1; user < access.principals().size(); user++) {
      for (Holding row :
          access.principals().isUser(user) ? holdings.of(user) : List.<Holding>of()) {
        if (!row.state().works()) {
          continue;
        }
        String who = access.principals().name(user);
        NodeKind kind = access.tree().kind(row.node());
        // a table that stands aside is what it was, whatever it is called
        String path = kind + access.tree().path(row.node()).replaceAll("(?i)_base(\"?)$", "$1");
        if (isGuarded(access.tree(), row.node())) {
          continue;
        }
        if (row.columns() == null) {
          cells.add(List.of(who, row.privilege(), path));
        }
        for (int column = 0; column < access.tree().columns(row.node()); column++) {
          if (row.columns() == null || row.columns().get(column)) {
            cells.add(List.of(who, row.privilege(), path, column));
          }
        }
      }
    }
    return cells;
  }
}
