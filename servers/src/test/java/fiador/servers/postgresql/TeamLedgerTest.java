package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.files.ledger.ChangeBook;
import fiador.files.ledger.Ledger;
import fiador.files.ledger.LedgerException;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.servers.jdbc.Login;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** One ledger that a team shares: all at once, copied and put back. */
class TeamLedgerTest {
  private static final int TEAM = 6;
  private static final int EACH = 8;

  private final Login admin = RealPostgresql.login(18);

  @BeforeEach
  void aDatabaseOfItsOwn() throws Exception {
    run("create role team login", "create database team owner team");
  }

  @AfterEach
  void asItWas() throws Exception {
    run("drop database if exists team", "drop database if exists team_kept", "drop role team");
  }

  private void run(String... all) throws Exception {
    try (Connection connection = RealPostgresql.connect(admin, null);
        Statement sql = connection.createStatement()) {
      for (String each : all) {
        sql.execute(each);
      }
    }
  }

  private Ledger open() throws Exception {
    return Ledger.open(admin.url().replaceFirst("/postgres$", "/team"), "team", "");
  }

  /** Estates of which each has much that the others have too. */
  private static Access estate(int who, int number) {
    TinyEstate tiny = TinyEstate.postgresql().reached("box" + who, "db.box:" + (5000 + who));
    for (int role = 0; role < 40; role++) {
      tiny.roles("role_" + (who % 2 == 0 ? role : 39 - role));
    }
    return tiny.users("somebody_" + number).build();
  }

  private static String text(Access access) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    SurveyWriter.write(access, out);
    return out.toString(StandardCharsets.UTF_8);
  }

  /** Does it as everybody of the team at once, from the same moment on. */
  private static void together(Work work) throws Exception {
    CyclicBarrier begin = new CyclicBarrier(TEAM);
    ExecutorService team = Executors.newFixedThreadPool(TEAM);
    try {
      List<Future<Void>> all = new ArrayList<>();
      for (int who = 0; who < TEAM; who++) {
        int me = who;
        Callable<Void> mine =
            () -> {
              begin.await();
              work.as(me);
              return null;
            };
        all.add(team.submit(mine));
      }
      for (Future<Void> each : all) {
        each.get();
      }
    } finally {
      team.shutdownNow();
    }
  }

  @FunctionalInterface
  private interface Work {
    void as(int who) throws Exception;
  }

  @Test
  void manyAdministratorsAtOnceLoseNothingAndKeepOutOfEachOthersWay() throws Exception {
    together(
        who -> {
          try (Ledger ledger = open()) {
            for (int number = 0; number < EACH; number++) {
              ledger.record(estate(who, number));
              long change =
                  ledger
                      .changes()
                      .begins(
                          "box",
                          "settle",
                          "admin" + who,
                          Instant.now(),
                          List.of("grant " + number));
              ledger.changes().ended(change, Instant.now());
            }
          }
        });
    try (Ledger ledger = open()) {
      assertThat(ledger.changes().of("box"))
          .hasSize(TEAM * EACH)
          .allSatisfy(change -> assertThat(change.ended()).isNotNull())
          .extracting(ChangeBook.Change::id)
          .doesNotHaveDuplicates();
      assertThat(ledger.servers()).hasSize(TEAM);
    }
  }

  @Test
  void allReadBackWhatWasRecordedAlsoFromACopyThatWasPutBack() throws Exception {
    together(
        who -> {
          try (Ledger ledger = open()) {
            ledger.record(estate(who, who));
          }
        });
    run("create database team_kept template team");
    try (Ledger ledger = open()) {
      ledger
          .changes()
          .begins("box", "settle", "somebody", Instant.now(), List.of("after the copy"));
    }
    run("drop database team", "alter database team_kept rename to team");
    try (Ledger ledger = open()) {
      assertThat(ledger.changes().of("box")).as("what came after the copy").isEmpty();
      for (int who = 0; who < TEAM; who++) {
        Ledger.Survey survey = ledger.surveys("box" + who).get(0);
        assertThat(text(ledger.read(survey))).isEqualTo(text(estate(who, who)));
      }
    }
  }

  @Test
  void aLedgerOfAnotherFormatIsLeftAsItIs() throws Exception {
    open().close();
    try (Connection connection =
            RealPostgresql.connect(new Login(admin.url(), "team", ""), "team");
        Statement sql = connection.createStatement()) {
      sql.execute("update fiador_ledger set format = 7");
    }
    assertThatThrownBy(this::open)
        .isInstanceOf(LedgerException.class)
        .hasMessageContaining("format 7; this version knows 1");
  }
}
