package fiador.work.settling;

import fiador.files.charter.Charter;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Clock;

/** One table and one user on an embedded server, and a charter that gives the one to the other. */
final class SmallEstate {
  private final Path folder;
  private final String ledger;

  /**
   * In that folder.
   *
   * @param ledger what the charter says of a ledger, empty for the usual one
   */
  SmallEstate(Path folder, String ledger) throws Exception {
    this.folder = folder;
    this.ledger = ledger;
    charter("select");
    run("create schema s", "create table s.t (a int)", "create user u password 'x'");
  }

  /** Writes the charter, which gives these privileges. */
  void charter(String privileges) throws Exception {
    Files.writeString(
        folder.resolve("fiador.yaml"),
        """
        fiador: 1
        servers:
          it: {kind: hsqldb, url: "jdbc:hsqldb:mem:%s", login: SA, password: ""}
        roles:
          reader: {purpose: access, may: ["%s on table s.t"]}
        users:
          u: {roles: [reader]}
        governs: {schemas: [s], roles: [reader], users: [u]}
        %s
        """
            .formatted(folder.getFileName(), privileges, ledger));
  }

  /** Runs statements as the administrator. */
  void run(String... statements) throws Exception {
    Task task = task();
    try (Connection connection = task.kind().connect(Surveys.login(task.entry()), null);
        Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }

  /** What is to be settled. */
  Task task() throws Exception {
    Charter charter = Charters.read(folder);
    return new Task(folder, charter, Charters.server(charter, "it"), false, Clock.systemUTC());
  }
}
