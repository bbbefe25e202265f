package fiador.cli;

import fiador.files.houses.HouseSheets;
import fiador.standin.serving.Settings;
import fiador.standin.serving.StandIn;
import fiador.work.charters.Environment;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/** A stand-in that behaves as {@code cascade}, and a charter of its database {@code dw}. */
final class StandInEstate implements AutoCloseable {
  private static final String SECRET = "STAND_IN_ESTATE";

  private final Path folder;
  private final StandIn standIn;
  private final Connection keeper;

  /** One in that folder, on which those statements have been carried out. */
  StandInEstate(Path folder, String... statements) throws Exception {
    this.folder = folder;
    Environment.have(SECRET, "x");
    String sheet = HouseSheets.text("cascade");
    this.standIn =
        StandIn.start(
            Settings.local(folder.resolve("server"), sheet, "keeper", "x".toCharArray(), 0));
    this.keeper =
        DriverManager.getConnection(
            "jdbc:standin://127.0.0.1:" + standIn.port() + "/", "keeper", "x");
    execute("CREATE DATABASE dw");
    execute("CREATE SCHEMA dw.billing");
    for (String sql : statements) {
      execute(sql);
    }
  }

  /** Carries a statement out as the administrator. */
  void execute(String sql) throws SQLException {
    try (Statement statement = keeper.createStatement()) {
      statement.execute(sql);
    }
  }

  /** What stands first in the first row of a query; null for no row. */
  String value(String query) throws SQLException {
    try (Statement statement = keeper.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      return rows.next() ? rows.getString(1) : null;
    }
  }

  /** Writes the charter: its servers are there already. */
  void charter(String rest) throws IOException {
    Files.writeString(
        folder.resolve("fiador.yaml"),
        """
        fiador: 1
        estate: trial
        ledger: none
        servers:
          dw:
            kind: house/cascade
            url: 'jdbc:standin://127.0.0.1:PORT/'
            login: keeper
            password: ${SECRET}
        """
                .replace("PORT", String.valueOf(standIn.port()))
                .replace("SECRET", SECRET)
            + rest);
  }

  /** Settles as the charter says. */
  Program settle(String... more) {
    return Program.settle("s", withCharter(more));
  }

  /** Runs a command about that charter. */
  Program run(String... command) {
    return Program.run(withCharter(command));
  }

  private String[] withCharter(String... words) {
    String[] all = new String[words.length + 2];
    System.arraycopy(words, 0, all, 0, words.length);
    all[words.length] = "--charter";
    all[words.length + 1] = folder.toString();
    return all;
  }

  @Override
  public void close() throws SQLException, IOException {
    keeper.close();
    standIn.close();
    Environment.forget(SECRET);
  }
}
