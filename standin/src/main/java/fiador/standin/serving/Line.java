package fiador.standin.serving;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import com.sun.net.httpserver.HttpExchange;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.RefusedException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Clock;
import java.util.Base64;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What comes over the line: who it is, what they want, and what is said back. */
final class Line implements AutoCloseable {
  private static final ObjectMapper JSON = JsonMapper.builder().build();
  private static final int LARGEST = 1_000_000;
  private static final int OK = 200;
  private static final int MISTAKE = 400;
  private static final int WHO = 401;
  private static final int REFUSED = 403;
  private static final int NOTHING = 404;
  private static final int METHOD = 405;
  private static final int TOO_LARGE = 413;
  private static final int TOO_SOON = 429;
  private static final int BROKEN = 500;
  private static final int FULL = 503;
  private static final String SESSION = "Session";
  private static final String HOPS = "Hops";
  private static final String BASIC = "Basic ";

  private final Desk desk;
  private final Visits visits;
  private final Attempts attempts;
  private final Known known = new Known();

  Line(Desk desk, Clock clock) {
    this.desk = desk;
    this.visits = new Visits(clock);
    this.attempts = new Attempts(clock);
  }

  /** What is said where nothing can be given. */
  private static final class Said extends Exception {
    private static final long serialVersionUID = 1L;
    private final int status;
    private final String what;

    Said(int status, String what, String message) {
      super(message);
      this.status = status;
      this.what = what;
    }
  }

  void take(HttpExchange exchange) throws IOException {
    try (exchange) {
      try {
        String path = exchange.getRequestURI().getPath();
        switch (path) {
          case "/sessions" -> sessions(exchange);
          case "/statements" -> statements(exchange);
          default -> throw new Said(NOTHING, "mistake", "there are /sessions and /statements here");
        }
      } catch (Said said) {
        say(exchange, said.status, said.what, String.valueOf(said.getMessage()));
      } catch (MistakeException mistake) {
        say(exchange, MISTAKE, "mistake", String.valueOf(mistake.getMessage()));
      } catch (RefusedException refused) {
        say(exchange, REFUSED, "refused", String.valueOf(refused.getMessage()));
      } catch (SQLException | IOException | RuntimeException | StackOverflowError broken) {
        // a sum of many thousands is too deep to be written anew
        say(
            exchange,
            BROKEN,
            "broken",
            "the stand-in cannot do this: " + broken.getClass().getSimpleName());
      }
    }
  }

  private static void say(HttpExchange exchange, int status, String what, String message)
      throws IOException {
    if (exchange.getResponseCode() >= 0) {
      // rows are on their way; that they end without their end says enough
      return;
    }
    byte[] body = JSON.writeValueAsBytes(Map.of(what, message));
    exchange.getResponseHeaders().set("Content-Type", "application/json");
    if (status == WHO) {
      exchange.getResponseHeaders().set("WWW-Authenticate", "Basic realm=\"stand-in\"");
    }
    exchange.sendResponseHeaders(status, body.length);
    exchange.getResponseBody().write(body);
  }

  // sessions

  private void sessions(HttpExchange exchange)
      throws IOException, Said, RefusedException, SQLException {
    String id = exchange.getRequestHeaders().getFirst(SESSION);
    switch (exchange.getRequestMethod()) {
      case "POST" -> {
        Visit visit = visit(exchange);
        visits.begin(visit);
        answer(
            exchange,
            Map.of(
                "session",
                visit.id(),
                "user",
                visit.session().user().name(),
                "house",
                desk.house().name()));
      }
      case "DELETE" -> {
        if (id != null) {
          visits.end(id);
        }
        answer(exchange, Map.of("complete", true));
      }
      default -> throw new Said(METHOD, "mistake", "POST begins a session, DELETE ends it");
    }
  }

  private static void answer(HttpExchange exchange, Map<String, ?> said) throws IOException {
    byte[] body = JSON.writeValueAsBytes(said);
    exchange.getResponseHeaders().set("Content-Type", "application/json");
    exchange.sendResponseHeaders(OK, body.length);
    exchange.getResponseBody().write(body);
  }

  /** Somebody new, whose secret is looked at. */
  private Visit visit(HttpExchange exchange) throws Said, RefusedException, SQLException {
    String[] who = credentials(exchange);
    String key = who[0] + "\n" + exchange.getRemoteAddress().getAddress().getHostAddress();
    long wait = attempts.wait(key);
    if (wait > 0) {
      throw new Said(TOO_SOON, "refused", "wait " + (wait / 1_000 + 1) + " s after wrong secrets");
    }
    String hashed = desk.secret(who[0]);
    if (!known.isRight(who[1], hashed)) {
      attempts.failed(key);
      throw new Said(WHO, "refused", "no user of that name has that secret");
    }
    attempts.succeeded(key);
    if (!visits.room()) {
      throw new Said(FULL, "refused", "too many sessions are open");
    }
    return desk.visit(who[0], visits.newId(), hops(exchange));
  }

  /** Over how many servers a request came, as the last of them says. */
  private static int hops(HttpExchange exchange) {
    String hops = exchange.getRequestHeaders().getFirst(HOPS);
    return hops == null || !hops.matches("\\d{1,3}") ? 0 : Integer.parseInt(hops);
  }

  private static String[] credentials(HttpExchange exchange) throws Said {
    String header = exchange.getRequestHeaders().getFirst("Authorization");
    if (header == null || !header.startsWith(BASIC)) {
      throw new Said(WHO, "refused", "say who you are: basic authentication");
    }
    try {
      byte[] bytes = Base64.getDecoder().decode(header.substring(BASIC.length()).strip());
      String both = StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes)).toString();
      int colon = both.indexOf(':');
      if (colon >= 0) {
        return new String[] {unescaped(both.substring(0, colon)), both.substring(colon + 1)};
      }
    } catch (IllegalArgumentException | CharacterCodingException odd) {
      // said below
    }
    throw new Said(MISTAKE, "mistake", "a user and a secret, with a colon between, in base 64");
  }

  /** A colon in a name stands there as %3A, as the end of the name is the first one. */
  private static String unescaped(String name) {
    return name.replace("%3A", ":").replace("%25", "%");
  }

  // statements

  private void statements(HttpExchange exchange)
      throws IOException, Said, RefusedException, MistakeException, SQLException {
    if (!exchange.getRequestMethod().equals("POST")) {
      throw new Said(METHOD, "mistake", "statements are posted");
    }
    String type = exchange.getRequestHeaders().getFirst("Content-Type");
    if (type == null || !type.startsWith("application/json")) {
      throw new Said(MISTAKE, "mistake", "say Content-Type: application/json");
    }
    String id = exchange.getRequestHeaders().getFirst(SESSION);
    Visit known = id == null ? null : visits.of(id);
    if (id != null && known == null) {
      throw new Said(WHO, "refused", "that session is over");
    }
    String statement = statement(exchange);
    if (known != null) {
      desk.run(known, statement, new Output(exchange));
    } else {
      try (Visit once = visit(exchange)) {
        desk.run(once, statement, new Output(exchange));
      }
    }
  }

  private static String statement(HttpExchange exchange) throws IOException, Said {
    byte[] body = exchange.getRequestBody().readNBytes(LARGEST + 1);
    if (body.length > LARGEST) {
      throw new Said(TOO_LARGE, "mistake", "a request has " + LARGEST + " bytes at most");
    }
    @Nullable JsonNode said = null;
    try {
      said = JSON.readTree(body);
    } catch (JsonProcessingException odd) {
      // said below
    }
    if (said == null || !said.path("statement").isTextual()) {
      throw new Said(MISTAKE, "mistake", "send {\"statement\": \"...\"}");
    }
    return said.path("statement").asText();
  }

  @Override
  public void close() {
    visits.close();
  }
}
