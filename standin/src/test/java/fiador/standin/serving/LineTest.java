package fiador.standin.serving;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.InetAddress;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.KeyStore;
import java.sql.Connection;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What comes over the line, spoken without the driver. */
class LineTest {
  private static final int AT_ONCE = 300;
  @TempDir private Path folder;
  private final HttpClient client = HttpClient.newHttpClient();
  private Trial trial;

  @BeforeEach
  void begin() throws Exception {
    trial = Trial.in(folder.resolve("it"));
  }

  @AfterEach
  void end() throws Exception {
    trial.close();
  }

  private HttpRequest.Builder to(String path) {
    return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + trial.standIn().port() + path));
  }

  private static String basic(String both) {
    return "Basic " + Base64.getEncoder().encodeToString(both.getBytes(StandardCharsets.UTF_8));
  }

  private HttpResponse<String> send(HttpRequest.Builder request) throws Exception {
    return client.send(request.build(), BodyHandlers.ofString());
  }

  private HttpRequest.Builder statement(String sql) {
    return to("/statements")
        .header("Authorization", basic("keeper:first secret"))
        .header("Content-Type", "application/json")
        .POST(BodyPublishers.ofString("{\"statement\": \"" + sql + "\"}"));
  }

  @Test
  void rowsComeInJsonAndInCsv() throws Exception {
    String sql = "SELECT 1 AS one, 'a,b' AS two, CAST(NULL AS integer) AS three";
    assertThat(send(statement(sql)).body())
        .isEqualTo(
            "{\"columns\":[{\"name\":\"ONE\",\"type\":\"integer\"},{\"name\":\"TWO\",\"type\":"
                + "\"character varying\"},{\"name\":\"THREE\",\"type\":\"integer\"}],"
                + "\"rows\":[[1,\"a,b\",null]],\"complete\":true}");
    assertThat(send(statement(sql).header("Accept", "text/csv")).body().lines())
        .containsExactly("ONE,TWO,THREE", "1,\"a,b\",");
    assertThat(send(statement("CREATE DATABASE dw")).body()).isEqualTo("{\"complete\":true}");
  }

  @Test
  void whatIsNoRequestIsSaid() throws Exception {
    assertThat(send(to("/").GET()).statusCode()).isEqualTo(404);
    assertThat(send(to("/statements").GET()).statusCode()).isEqualTo(405);
    assertThat(send(to("/sessions").GET()).statusCode()).isEqualTo(405);
    assertThat(send(to("/sessions").POST(BodyPublishers.noBody())).statusCode()).isEqualTo(401);
    HttpRequest.Builder odd = to("/sessions").header("Authorization", "Basic ???");
    assertThat(send(odd.POST(BodyPublishers.noBody())).statusCode()).isEqualTo(400);
    HttpRequest.Builder plain =
        to("/statements").header("Authorization", basic("keeper:first secret"));
    assertThat(send(plain.POST(BodyPublishers.ofString("SELECT 1"))).body())
        .contains("say Content-Type: application/json");
    HttpRequest.Builder json = plain.setHeader("Content-Type", "application/json");
    assertThat(send(json.POST(BodyPublishers.ofString("[1"))).body()).contains("send {");
    String large = "{\"statement\": \"" + "x".repeat(1_000_000) + "\"}";
    assertThat(send(json.POST(BodyPublishers.ofString(large))).statusCode()).isEqualTo(413);
    HttpRequest.Builder over = json.setHeader("Session", "none");
    assertThat(send(over.POST(BodyPublishers.ofString("{}"))).body()).contains("is over");
  }

  @Test
  void whatIsTooDeepIsSaidToBe() throws Exception {
    String brackets = "SELECT " + "(".repeat(45_000) + "1" + ")".repeat(45_000);
    assertThat(send(statement(brackets)).body()).startsWith("{\"mistake\":");
    String sum = "SELECT 1" + "+1".repeat(49_000);
    assertThat(send(statement(sum)).body()).startsWith("{\"broken\":");
    assertThat(send(statement("SELECT 1")).statusCode()).isEqualTo(200);
  }

  @Test
  void wrongSecretsAreSlowedDown() throws Exception {
    HttpRequest.Builder wrong = to("/sessions").header("Authorization", basic("keeper:wrong"));
    wrong.POST(BodyPublishers.noBody());
    for (int i = 0; i < 3; i++) {
      assertThat(send(wrong).statusCode()).isEqualTo(401);
    }
    assertThat(send(wrong).statusCode()).isEqualTo(429);
    // the right one is not looked at either, or waiting would say which is right
    assertThat(send(statement("SELECT 1")).statusCode()).isEqualTo(429);
    HttpRequest.Builder nobody = to("/sessions").header("Authorization", basic("nobody:x"));
    HttpResponse<String> said = send(nobody.POST(BodyPublishers.noBody()));
    assertThat(said.body()).isEqualTo("{\"refused\":\"no user of that name has that secret\"}");
  }

  @Test
  void namesWithColonsLogInToo() throws Exception {
    try (Connection keeper = trial.keeper()) {
      Trial.run(keeper, "CREATE USER \"a:%b\" PASSWORD 's'");
      assertThat(Trial.rows(trial.as("a:%b"), "SELECT 1")).containsExactly("1");
    }
  }

  @Test
  void moreThanThereAreThreadsWorkAtOnce() throws Exception {
    try (Connection keeper = trial.keeper()) {
      Trial.run(
          keeper,
          """
          CREATE DATABASE dw;
          CREATE SCHEMA dw.s;
          CREATE TABLE dw.s.t (a integer);
          """);
    }
    ExecutorService many = Executors.newFixedThreadPool(AT_ONCE);
    try {
      List<Callable<Integer>> visits = new ArrayList<>();
      for (int i = 0; i < AT_ONCE; i++) {
        int number = i;
        visits.add(
            () -> {
              try (Connection mine = trial.keeper()) {
                Trial.run(mine, "INSERT INTO dw.s.t VALUES (" + number + ")");
                Trial.run(mine, "CREATE ROLE r" + number);
                return Trial.rows(mine, "SELECT a FROM dw.s.t WHERE a = " + number).size();
              }
            });
      }
      for (Future<Integer> visit : many.invokeAll(visits)) {
        assertThat(visit.get()).isEqualTo(1);
      }
    } finally {
      many.shutdownNow();
    }
    try (Connection keeper = trial.keeper()) {
      assertThat(Trial.rows(keeper, "SELECT count(*), sum(a) FROM dw.s.t"))
          .containsExactly(AT_ONCE + "|" + AT_ONCE * (AT_ONCE - 1) / 2);
      assertThat(
              Trial.rows(
                  keeper, "SELECT count(*) FROM catalog.principals WHERE principal_type = 'role'"))
          .containsExactly("" + AT_ONCE);
    }
  }

  @Test
  void itIsKeptFromOthers() throws Exception {
    assertThat(Files.getPosixFilePermissions(folder.resolve("it")))
        .isEqualTo(PosixFilePermissions.fromString("rwx------"));
    assertThat(Files.readString(folder.resolve("it/journal.jsonl"))).doesNotContain("first secret");
    Settings open =
        new Settings(
            folder.resolve("open"),
            Trial.HOUSE,
            "keeper",
            "x".toCharArray(),
            InetAddress.getByName("0.0.0.0"),
            0,
            null);
    assertThatThrownBy(() -> StandIn.start(open)).hasMessageContaining("TLS");
    Settings without =
        new Settings(
            folder.resolve("without"),
            Trial.HOUSE,
            "keeper",
            null,
            InetAddress.getLoopbackAddress(),
            0,
            null);
    assertThatThrownBy(() -> StandIn.start(without)).hasMessageContaining("needs a secret");
    assertThat(trial.standIn().otherwise()).containsExactly("frobs");
  }

  @Test
  void theLineCanBeProtectedByTls() throws Exception {
    Path file = folder.resolve("keys.p12");
    new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
            "-genkeypair",
            "-alias",
            "it",
            "-keyalg",
            "EC",
            "-storetype",
            "PKCS12",
            "-keystore",
            file.toString(),
            "-storepass",
            "secret",
            "-dname",
            "CN=localhost",
            "-ext",
            "SAN=ip:127.0.0.1")
        .redirectErrorStream(true)
        .redirectOutput(ProcessBuilder.Redirect.DISCARD)
        .start()
        .waitFor();
    KeyStore keys = KeyStore.getInstance(file.toFile(), "secret".toCharArray());
    KeyManagerFactory ours = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
    ours.init(keys, "secret".toCharArray());
    TrustManagerFactory theirs =
        TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
    theirs.init(keys);
    SSLContext context = SSLContext.getInstance("TLS");
    context.init(ours.getKeyManagers(), theirs.getTrustManagers(), null);
    Settings settings =
        new Settings(
            folder.resolve("tls"),
            Trial.HOUSE,
            "keeper",
            "x".toCharArray(),
            InetAddress.getLoopbackAddress(),
            0,
            context);
    try (StandIn standIn = StandIn.start(settings)) {
      HttpRequest begin =
          HttpRequest.newBuilder(URI.create("https://127.0.0.1:" + standIn.port() + "/sessions"))
              .header("Authorization", basic("keeper:x"))
              .POST(BodyPublishers.noBody())
              .build();
      HttpClient trusting = HttpClient.newBuilder().sslContext(context).build();
      assertThat(trusting.send(begin, BodyHandlers.ofString()).statusCode()).isEqualTo(200);
      assertThatThrownBy(() -> client.send(begin, BodyHandlers.ofString()))
          .isInstanceOf(javax.net.ssl.SSLException.class);
    }
  }

  /** Who holds the line and says nothing keeps nobody else from it. */
  @Test
  void whoSaysNothingHoldsNobodyUp() throws Exception {
    List<Socket> silent = new ArrayList<>();
    for (int i = 0; i < 50; i++) {
      Socket socket = new Socket(InetAddress.getLoopbackAddress(), trial.standIn().port());
      socket
          .getOutputStream()
          .write("POST /statements HTTP/1.1\r\n".getBytes(StandardCharsets.US_ASCII));
      silent.add(socket);
    }
    assertThat(send(statement("SELECT 1")).statusCode()).isEqualTo(200);
    for (Socket socket : silent) {
      socket.close();
    }
  }
}
