package fiador.standin.serving;

import com.sun.net.httpserver.HttpServer;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsServer;
import fiador.standin.deeds.Secrets;
import fiador.standin.house.House;
import fiador.standin.house.HouseReader;
import fiador.standin.keeping.Head;
import fiador.standin.keeping.Journal;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Clock;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/** A stand-in that listens, until it is closed. */
public final class StandIn implements AutoCloseable {
  private static final String JOURNAL = "journal.jsonl";

  /** Named as sheets are, so that it is not read as a part of a charter it lies beside. */
  private static final String HOUSE = "kept.house.yaml";

  private static final int MOST_AT_ONCE = 256;
  private static final int WAITING = 1_024;
  private static final long IDLE_SECONDS = 30;
  private static final long PATIENCE_SECONDS = 5;
  private static final String OWNER_ONLY = "rwx------";

  static {
    // a request that comes a byte at a time does not hold a thread for ever; in seconds
    limit("sun.net.httpserver.maxReqTime", "15");
    limit("sun.net.httpserver.maxRspTime", "120");
    // as many lines may wait for their next question as there may be sessions
    limit("sun.net.httpserver.maxIdleConnections", "1000");
    // short answers are not kept waiting for more
    limit("sun.net.httpserver.nodelay", "true");
  }

  private final Desk desk;
  private final Line line;
  private final HttpServer server;
  private final ExecutorService threads;
  private final List<String> otherwise;

  private StandIn(Desk desk, Settings settings, List<String> otherwise) throws IOException {
    this.desk = desk;
    this.otherwise = otherwise;
    this.line = new Line(desk, Clock.systemUTC());
    InetSocketAddress at = new InetSocketAddress(settings.at(), settings.port());
    if (settings.tls() == null) {
      server = HttpServer.create(at, WAITING);
    } else {
      HttpsServer protectedServer = HttpsServer.create(at, WAITING);
      protectedServer.setHttpsConfigurator(new HttpsConfigurator(settings.tls()));
      server = protectedServer;
    }
    // whoever asks while the last answer's thread is still at its end waits, and is not cut off
    ThreadPoolExecutor pool =
        new ThreadPoolExecutor(
            MOST_AT_ONCE,
            MOST_AT_ONCE,
            IDLE_SECONDS,
            TimeUnit.SECONDS,
            new LinkedBlockingQueue<>(WAITING));
    pool.allowCoreThreadTimeOut(true);
    threads = pool;
    server.setExecutor(threads);
    server.createContext("/", line::take);
    server.start();
  }

  private static void limit(String property, String value) {
    if (System.getProperty(property) == null) {
      System.setProperty(property, value);
    }
  }

  /** Whether there is a stand-in in that folder already. */
  public static boolean isThere(Path folder) {
    return Files.exists(folder.resolve(JOURNAL));
  }

  /**
   * Starts one.
   *
   * @throws IOException when its folder or its port cannot be had
   * @throws IllegalArgumentException when the settings make no sense
   */
  public static StandIn start(Settings settings) throws IOException {
    if (settings.tls() == null && !settings.at().isLoopbackAddress()) {
      throw new IllegalArgumentException(
          "on any address but the loopback the line must be protected by TLS");
    }
    Path folder = settings.folder();
    boolean fresh = !isThere(folder);
    String sheet = fresh ? settings.sheet() : Files.readString(folder.resolve(HOUSE));
    if (sheet == null) {
      throw new IllegalArgumentException("a new stand-in needs a house sheet to behave like");
    }
    if (!fresh && settings.sheet() != null && !settings.sheet().equals(sheet)) {
      throw new IllegalArgumentException(
          "the stand-in in " + folder + " began with another house sheet; take another folder");
    }
    HouseReader reader = new HouseReader();
    House house = reader.read(sheet);
    Journal journal = Journal.open(prepared(folder, fresh, sheet), head(settings, fresh));
    try {
      Desk desk = new Desk(house, journal, folder, Clock.systemUTC());
      try {
        return new StandIn(desk, settings, reader.otherwise());
      } catch (IOException | RuntimeException wrong) {
        desk.close();
        throw wrong;
      }
    } catch (IOException | RuntimeException wrong) {
      journal.close();
      throw wrong;
    }
  }

  private static Path prepared(Path folder, boolean fresh, String sheet) throws IOException {
    if (fresh) {
      Files.createDirectories(folder);
      if (folder.getFileSystem().supportedFileAttributeViews().contains("posix")) {
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString(OWNER_ONLY));
      }
      Files.writeString(
          folder.resolve(HOUSE),
          sheet,
          StandardCharsets.UTF_8,
          StandardOpenOption.CREATE,
          StandardOpenOption.TRUNCATE_EXISTING);
    }
    return folder.resolve(JOURNAL);
  }

  private static @Nullable Head head(Settings settings, boolean fresh) {
    if (!fresh) {
      return null;
    }
    char[] secret = settings.secret();
    if (secret == null || secret.length == 0) {
      throw new IllegalArgumentException("the first user of a new stand-in needs a secret");
    }
    return new Head(1, settings.administrator(), Secrets.hash(secret), Secrets.random());
  }

  /** Where it listens. */
  public int port() {
    return server.getAddress().getPort();
  }

  /** What its house sheet says and it does not behave like. */
  public List<String> otherwise() {
    return otherwise;
  }

  @Override
  public void close() throws IOException {
    server.stop(0);
    threads.shutdown();
    try {
      // nobody is interrupted: that would close the files under whoever writes
      threads.awaitTermination(PATIENCE_SECONDS, TimeUnit.SECONDS);
    } catch (InterruptedException hurried) {
      Thread.currentThread().interrupt();
    }
    line.close();
    desk.close();
  }
}
