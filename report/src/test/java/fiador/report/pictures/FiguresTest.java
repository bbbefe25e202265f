package fiador.report.pictures;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.report.RandomEstates;
import fiador.report.pictures.Figure.Line;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.Matrix.Cell;
import fiador.report.pictures.Matrix.Level;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** Figures say what the answers in words say. */
final class FiguresTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final int ESTATES = 150;
  private static final long WAY_IN =
      PrivilegeSet.of(Privilege.USAGE, Privilege.CONNECT, Privilege.TEMPORARY);

  /** The boxes that can be reached from one along lines that work. */
  private static Set<String> reached(Figure figure, String start) {
    Set<String> seen = new HashSet<>(Set.of(start));
    List<String> open = new ArrayList<>(seen);
    while (!open.isEmpty()) {
      String at = open.remove(open.size() - 1);
      for (Line line : figure.lines()) {
        boolean works = line.manner() == Manner.WORKS || line.manner() == Manner.ON_REQUEST;
        if (works && line.from().equals(at) && seen.add(line.to())) {
          open.add(line.to());
        }
      }
    }
    return seen;
  }

  @Test
  void aUsersFigureLeadsToWhatTheyHoldAndNowhereElse() {
    int several = 0;
    for (int seed = 0; seed < ESTATES; seed++) {
      Access access = RandomEstates.of(seed).build();
      for (int user = 1; user <= RandomEstates.USERS; user++) {
        Set<String> held = new TreeSet<>();
        for (Holding row : new Holdings(access, CLOCK, false).of(user)) {
          boolean object = access.tree().kind(row.node()).isObject();
          if (row.state().works() && (object || (row.privilege().bit() & WAY_IN) == 0)) {
            held.add("n" + row.node());
          }
        }
        Set<String> drawn = new TreeSet<>(reached(UserFigure.of(access, user, CLOCK), "p" + user));
        drawn.removeIf(id -> id.startsWith("p"));
        assertThat(drawn).as("seed %d, user %d", seed, user).isEqualTo(held);
        several += held.size() > 1 ? 1 : 0;
      }
    }
    assertThat(several).isGreaterThan(ESTATES);
  }

  @Test
  void aPowerIsDrawnToTheServer() {
    Access access =
        TinyEstate.postgresql()
            .users("ada")
            .roles("reader", "root")
            .node(NodeKind.SCHEMA, "d.s")
            .node(NodeKind.TABLE, "d.s.a")
            .power("reader", Power.READ_EVERYTHING)
            .member("ada", "reader")
            .power("root", Power.SUPERUSER)
            .member("ada", "root")
            .build();
    Figure ada = UserFigure.of(access, access.principals().named("ada"), CLOCK);
    assertThat(reached(ada, "p1")).contains("n0");
    assertThat(ada.lines().stream().map(line -> line.manner() + " " + line.label()))
        .contains("WORKS read everything", "ON_REQUEST superuser");
    assertThat(RoleFigure.all(access, CLOCK.instant()).lines().stream().map(Line::label))
        .contains("read everything");
  }

  @Test
  void aThingsFigureShowsItsHoldersAndNobodyElse() {
    int several = 0;
    for (int seed = 0; seed < ESTATES; seed++) {
      TinyEstate tiny = RandomEstates.of(seed);
      Access access = tiny.build();
      for (String table : RandomEstates.TABLES) {
        int node = tiny.at(table);
        Set<Integer> holders = new TreeSet<>();
        for (Holding row : new Holders(access, CLOCK).of(node)) {
          if (row.state().works()) {
            holders.add(row.user());
          }
        }
        Figure figure = ThingFigure.of(access, node, -1, CLOCK);
        Set<Integer> drawn = new TreeSet<>();
        for (int user = 1; user <= RandomEstates.USERS; user++) {
          if (reached(figure, "p" + user).contains("n" + node)) {
            drawn.add(user);
          }
        }
        boolean everybody = figure.lines().stream().anyMatch(line -> line.from().equals("p0"));
        if (everybody) {
          // who holds it as everybody does has no line of their own
          assertThat(holders).as("seed %d, %s", seed, table).containsAll(drawn);
        } else {
          assertThat(drawn).as("seed %d, %s", seed, table).isEqualTo(holders);
          several += holders.size() > 1 ? 1 : 0;
        }
      }
    }
    assertThat(several).isGreaterThan(ESTATES / 3);
  }

  @Test
  void aMatrixSaysTheMostThatIsHeld() {
    for (int seed = 0; seed < ESTATES; seed++) {
      TinyEstate tiny = RandomEstates.of(seed);
      Access access = tiny.build();
      List<Integer> users = new ArrayList<>();
      for (int user = 1; user <= RandomEstates.USERS; user++) {
        users.add(user);
      }
      List<Integer> schemas = List.of(tiny.at("d.s"), tiny.at("d.t"));
      Matrix matrix = new Levels(access, CLOCK, true).of(users, schemas, CLOCK);
      Map<String, List<Cell>> byName = new HashMap<>();
      matrix.rows().forEach(row -> row.names().forEach(name -> byName.put(name, row.cells())));
      for (int user : users) {
        for (int at = 0; at < RandomEstates.TABLES.size(); at++) {
          int node = tiny.at(RandomEstates.TABLES.get(at));
          assertThat(matrix.columns().get(at)).isEqualTo(RandomEstates.TABLES.get(at).substring(2));
          long live = 0;
          boolean some = false;
          List<Holding> rows = new Holdings(access, CLOCK, false).at(user, node);
          for (Holding row : rows) {
            live |= row.state().works() && row.columns() == null ? row.privilege().bit() : 0;
            some |= row.columns() != null && row.privilege() == Privilege.SELECT;
          }
          List<Cell> cells = byName.get(access.principals().name(user));
          Cell cell = cells == null ? Cell.EMPTY : cells.get(at);
          String about =
              "seed " + seed + ", user " + user + ", " + RandomEstates.TABLES.get(at) + ": " + cell;
          if (rows.isEmpty()) {
            assertThat(cell).as(about).isEqualTo(Cell.EMPTY);
          } else if ((live & Privilege.DELETE.bit()) != 0) {
            assertThat(cell.level()).as(about).isEqualTo(Level.OWN);
          } else if ((live & Privilege.UPDATE.bit()) != 0) {
            assertThat(cell.level()).as(about).isEqualTo(Level.CHANGE);
          } else if (live != 0) {
            assertThat(cell.level()).as(about).isEqualTo(Level.READ);
          } else if (some && cell.state().works()) {
            assertThat(cell.level()).as(about).isEqualTo(Level.COLUMNS);
          }
        }
      }
    }
  }

  @Test
  void aRoleIsDrawnWithItsMembersAndWhatItOpens() {
    Access access =
        TinyEstate.postgresql()
            .users("ada", "bea")
            .roles("clerk", "read_s", "other")
            .node(NodeKind.SCHEMA, "d.s")
            .table("d.s.a", null)
            .table("d.s.b", null)
            .member("ada", "clerk")
            .member("bea", "clerk", Membership.of(false, false, true))
            .member("clerk", "read_s")
            .grant("read_s", "select", "d.s.a")
            .grant("read_s", "select", "d.s.b")
            .grant("other", "insert", "d.s.a")
            .build();
    int clerk = access.principals().named("clerk");
    assertThat(BoxTree.of(Folding.toFit(RoleFigure.around(access, clerk, CLOCK.instant()))))
        .isEqualTo(
            """
            Around the role clerk

            clerk, reached by
            ├─ ada
            └─ bea (after switching the role on)

            clerk, holds
            └─ read_s
               └─ s: read every table

            (survey of box, 0 s old)
            """);
    assertThat(RoleFigure.all(access, CLOCK.instant()).boxes().stream().map(Figure.Box::name))
        .contains("other", "clerk", "read_s", "ada", "bea", "s");
  }
}
