package fiador.standin.driver;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Duration;
import java.util.Base64;
import java.util.Map;

/** A session on a stand-in, over the line. */
final class Remote {
  static final String REFUSED = "42501";
  static final String WRONG_SECRET = "28000";
  private static final String MISTAKE = "42000";
  private static final String LINE = "08006";
  private static final int OK = 200;
  private static final int WHO = 401;
  private static final Duration PATIENCE = Duration.ofSeconds(30);
  private static final ObjectMapper JSON = JsonMapper.builder().build();
  private static final HttpClient CLIENT =
      HttpClient.newBuilder()
          .version(HttpClient.Version.HTTP_1_1)
          .connectTimeout(PATIENCE)
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();

  private final URI server;
  private final String session;
  private final String house;
  private final long mostBytes;

  private Remote(URI server, String session, String house, long mostBytes) {
    this.server = server;
    this.session = session;
    this.house = house;
    this.mostBytes = mostBytes;
  }

  /**
   * Logs in.
   *
   * @param hops over how many servers somebody came here
   * @param mostBytes how many an answer may have; 0 for any number
   */
  static Remote open(URI server, String user, String secret, int hops, long mostBytes)
      throws SQLException {
    String name = user.replace("%", "%25").replace(":", "%3A");
    byte[] both = (name + ":" + secret).getBytes(StandardCharsets.UTF_8);
    HttpRequest request =
        HttpRequest.newBuilder(server.resolve("/sessions"))
            .header("Authorization", "Basic " + Base64.getEncoder().encodeToString(both))
            .header("Hops", String.valueOf(hops))
            .timeout(PATIENCE)
            .POST(BodyPublishers.noBody())
            .build();
    JsonNode said = said(request, mostBytes);
    return new Remote(
        server, said.path("session").asText(), said.path("house").asText(), mostBytes);
  }

  /** The house sheet it behaves like. */
  String house() {
    return house;
  }

  /** What it says to a statement. */
  JsonNode run(String statement, int seconds) throws SQLException {
    try {
      HttpRequest.Builder request =
          HttpRequest.newBuilder(server.resolve("/statements"))
              .header("Session", session)
              .header("Content-Type", "application/json")
              .POST(
                  BodyPublishers.ofByteArray(
                      JSON.writeValueAsBytes(Map.of("statement", statement))));
      if (seconds > 0) {
        request.timeout(Duration.ofSeconds(seconds));
      }
      return said(request.build(), mostBytes);
    } catch (IOException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  void close() throws SQLException {
    said(
        HttpRequest.newBuilder(server.resolve("/sessions"))
            .header("Session", session)
            .timeout(PATIENCE)
            .DELETE()
            .build(),
        mostBytes);
  }

  private static JsonNode said(HttpRequest request, long mostBytes) throws SQLException {
    try {
      HttpResponse<InputStream> answer = CLIENT.send(request, BodyHandlers.ofInputStream());
      JsonNode said;
      try (InputStream body = answer.body()) {
        said = JSON.readTree(mostBytes == 0 ? body : new Bounded(body, mostBytes));
      }
      if (answer.statusCode() == OK) {
        return said;
      }
      String state =
          answer.statusCode() == WHO
              ? WRONG_SECRET
              : said.has("refused") ? REFUSED : said.has("mistake") ? MISTAKE : LINE;
      String message = said.isObject() && !said.isEmpty() ? said.iterator().next().asText() : "";
      throw new SQLException(message, state, answer.statusCode());
    } catch (IOException broken) {
      throw new SQLException("the line to the stand-in is broken: " + broken, LINE, broken);
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      throw new SQLException("interrupted", LINE, interrupted);
    }
  }
}
