package fiador.cli.change;

import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.Typist;
import fiador.files.houses.HouseSheets;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.shown.FileLink;
import fiador.standin.serving.Settings;
import fiador.standin.serving.StandIn;
import java.io.IOException;
import java.io.InputStream;
import java.net.BindException;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.util.Arrays;
import java.util.concurrent.CountDownLatch;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;

public final class StandInCommand extends Common {
  private static final int PORT = 8472;
  private static final String TLS_SECRET = "FIADOR_TLS_SECRET";

  Path folder;
  String house;
  int port = PORT;
  String administrator = "keeper";
  String passwordEnv;
  String listen;
  Path tls;

  /** Whoever sits there; tests have their own. */
  public Typist typist = Typist.atTerminal();

  /** What is done while it runs; tests do something and come back. */
  Running running = StandInCommand::untilEnded;

  /** Until when it runs. */
  interface Running {
    void with(StandIn standIn) throws IOException;
  }

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter(
        "DIR", Path.class, value -> folder = value, "What it keeps; made the first time.");
    options.option(
        "--house",
        "NAME|FILE",
        value -> house = value,
        "The house sheet it behaves like, the first time: cascade, dataset, roles-only, or a file.");
    options.option(
        "--port",
        "N",
        Integer.class,
        value -> port = value,
        "Where it listens; 0 for any free one.");
    options.option(
        "--administrator",
        "NAME",
        value -> administrator = value,
        "The first user, the first time; else keeper.");
    options.option(
        "--password-env",
        "VAR",
        value -> passwordEnv = value,
        "The environment variable with the first user's secret, instead of asking for it.");
    options.option(
        "--listen",
        "ADDRESS",
        value -> listen = value,
        "Another address than the loopback's; needs --tls.");
    options.option(
        "--tls",
        "FILE.p12",
        value -> tls = Path.of(value),
        "The key and certificate for TLS; " + TLS_SECRET + " opens it.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Runs a small warehouse server to try things on, to learn and to test with. It behaves as a house",
      "sheet says: denials, gates, roles that are on one at a time, whatever no server at hand has."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "It speaks SQL over HTTP (docs/stand-in.md) and enforces by itself. What was answered is kept,",
      "whatever happens. End it with Ctrl-C. In a charter, or with fiador survey:",
      "  dw: {kind: house/cascade, url: 'jdbc:standin://127.0.0.1:" + PORT + "/', login: keeper}",
      "",
      "Examples:",
      "  fiador stand-in try-it --house cascade",
      "  fiador stand-in try-it                   goes on where it ended",
      "  fiador survey --house cascade --url jdbc:standin://127.0.0.1:" + PORT + "/ --login keeper"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    boolean fresh = !StandIn.isThere(folder);
    if (listen != null && tls == null) {
      throw new BadInput("--listen needs --tls: secrets go over the line");
    }
    if (fresh && house == null) {
      throw new BadInput(
          "a new stand-in needs --house: " + String.join(", ", known()) + ", or a file");
    }
    if (!fresh && (passwordEnv != null || house != null)) {
      note("the stand-in in " + folder + " is there already; it goes on as it began");
    }
    char[] secret = fresh ? secret() : null;
    try (StandIn standIn = start(fresh, secret)) {
      standIn
          .otherwise()
          .forEach(fact -> note("the stand-in cannot behave like this part of the sheet: " + fact));
      String scheme = tls == null ? "standin" : "standins";
      out.println(
          "The stand-in in "
              + FileLink.to(folder)
              + " listens on jdbc:"
              + scheme
              + "://"
              + address().getHostAddress()
              + ":"
              + standIn.port()
              + "/"
              + (fresh ? " (login " + administrator + ")" : "")
              + "; Ctrl-C ends it.");
      out.flush();
      running.with(standIn);
    } catch (BindException taken) {
      throw new BadInput("port " + port + " is taken; say another: --port N");
    } catch (IllegalArgumentException wrong) {
      throw new BadInput(String.valueOf(wrong.getMessage()));
    } finally {
      if (secret != null) {
        Arrays.fill(secret, '\0');
      }
    }
    return Exit.YES;
  }

  private StandIn start(boolean fresh, char[] secret) throws BadInput, IOException {
    return StandIn.start(
        new Settings(
            folder,
            fresh ? sheet() : null,
            administrator,
            secret,
            address(),
            port,
            tls == null ? null : protectedBy()));
  }

  /** Those that a stand-in can be asked by. */
  private static String[] known() {
    return HouseSheets.SHIPPED.stream().filter(StandInCommand::isForStandIn).toArray(String[]::new);
  }

  private static boolean isForStandIn(String name) {
    try {
      return HouseSheets.text(name).contains("url: 'jdbc:standin");
    } catch (IOException unreadable) {
      return false;
    }
  }

  private String sheet() throws BadInput, IOException {
    if (HouseSheets.SHIPPED.contains(house)) {
      if (!isForStandIn(house)) {
        throw new BadInput(
            house
                + " is the sheet of a real server; for a stand-in: "
                + String.join(", ", known()));
      }
      return HouseSheets.text(house);
    }
    Path file = Path.of(house);
    if (!Files.isRegularFile(file)) {
      throw new BadInput(
          "there is no house sheet "
              + house
              + "; there are "
              + String.join(", ", known())
              + ", or name a file");
    }
    return Files.readString(file);
  }

  private InetAddress address() throws BadInput {
    try {
      return listen == null ? InetAddress.getLoopbackAddress() : InetAddress.getByName(listen);
    } catch (UnknownHostException unknown) {
      throw new BadInput(listen + " is no address of this machine");
    }
  }

  private SSLContext protectedBy() throws BadInput, IOException {
    String opens = System.getenv(TLS_SECRET);
    char[] secret = opens == null ? new char[0] : opens.toCharArray();
    try (InputStream file = Files.newInputStream(tls)) {
      KeyStore keys = KeyStore.getInstance("PKCS12");
      keys.load(file, secret);
      KeyManagerFactory managers =
          KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
      managers.init(keys, secret);
      SSLContext context = SSLContext.getInstance("TLS");
      context.init(managers.getKeyManagers(), null, null);
      return context;
    } catch (GeneralSecurityException | IOException wrong) {
      throw new BadInput(
          tls + " cannot be opened with what " + TLS_SECRET + " holds: " + wrong.getMessage());
    }
  }

  private char[] secret() throws BadInput {
    if (passwordEnv != null) {
      String value = System.getenv(passwordEnv);
      if (value == null || value.isEmpty()) {
        throw new BadInput("the environment has no " + passwordEnv);
      }
      return value.toCharArray();
    }
    if (typist == null) {
      throw new BadInput("the first user needs a secret: --password-env VAR, or a terminal");
    }
    char[] once = typist.secret("secret of " + administrator + ": ");
    char[] twice = typist.secret("once more: ");
    if (once == null || once.length == 0 || !Arrays.equals(once, twice)) {
      throw new BadInput("these were not the same, or nothing; nothing was made");
    }
    return once;
  }

  private static void untilEnded(StandIn standIn) {
    CountDownLatch ended = new CountDownLatch(1);
    Thread end = new Thread(ended::countDown, "end");
    Runtime.getRuntime().addShutdownHook(end);
    try {
      ended.await();
    } catch (InterruptedException asked) {
      Thread.currentThread().interrupt();
    }
  }
}
