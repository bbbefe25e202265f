package fiador.servers.mariadb;

import fiador.effects.*;
import fiador.estate.*;
import fiador.grants.*;
import fiador.servers.jdbc.Login;
import fiador.servers.kind.*;
import java.sql.*;
import java.time.*;
import java.util.*;
import org.junit.jupiter.api.Test;

class TmpTest {
  @Test
  void t() throws Exception {
    long seed = Long.getLong("fiador.seed");
    Login login = RealMariadb.login();
    try (Connection admin = DriverManager.getConnection(login.url(), "root", "")) {
      RandomMariadb estate = new RandomMariadb(admin, seed);
      estate.build();
      try (Statement s = admin.createStatement()) {
        for (String q : System.getProperty("q").split(";")) {
          s.execute(q);
          try (ResultSet r = s.getResultSet()) {
            if (r == null) continue;
            int n = r.getMetaData().getColumnCount();
            while (r.next()) {
              StringBuilder b = new StringBuilder("ROW ");
              for (int i = 1; i <= n; i++) b.append(r.getString(i)).append(" | ");
              System.out.println(b);
            }
          } catch (SQLException e) {
            System.out.println("ROW ERR " + q + e.getMessage());
          }
        }
      }
      for (int k = 0; k < 2; k++) {
        try (Connection c =
                DriverManager.getConnection(login.url(), System.getProperty("as", "u0"), "");
            Statement st = c.createStatement();
            ResultSet r =
                st.executeQuery(
                    "select current_user(), " + System.getProperty("call", "app.g()"))) {
          r.next();
          System.out.println("ROW call " + r.getString(1) + r.getString(2));
        } catch (SQLException e) {
          System.out.println("ROW call " + e.getMessage());
        }
        try (Statement st = admin.createStatement()) {
          st.execute("flush privileges");
        }
      }
      Access a = new MariadbServer().survey(login, "x", List.of(), Instant.EPOCH, n -> {});
      Lookup l = new Lookup(a);
      String u = System.getProperty("u");
      if (u != null) {
        var t =
            new Tracer(a, Clock.systemUTC())
                .trace(
                    l.principal(u).id(),
                    Privilege.named(System.getProperty("p")),
                    l.node(System.getProperty("o"), 0, true).id(),
                    -1,
                    5);
        System.out.println("ROW TRACE " + t);
      }
    }
  }
}
