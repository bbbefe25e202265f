package fiador.standin.serving;

import java.net.InetAddress;
import java.nio.file.Path;
import javax.net.ssl.SSLContext;
import org.jspecify.annotations.Nullable;

/**
 * How a stand-in is started.
 *
 * @param folder what it keeps
 * @param sheet the house sheet it behaves like; null for the one it began with
 * @param administrator the name of the first user of a new one
 * @param secret that one's secret; null where it is not new
 * @param at where it listens
 * @param port 0 for any that is free
 * @param tls what protects the line; null for nothing, on the loopback alone
 */
public record Settings(
    Path folder,
    @Nullable String sheet,
    String administrator,
    char @Nullable [] secret,
    InetAddress at,
    int port,
    @Nullable SSLContext tls) {

  /** On the loopback, with nothing to protect the line. */
  public static Settings local(
      Path folder,
      @Nullable String sheet,
      String administrator,
      char @Nullable [] secret,
      int port) {
    InetAddress loopback = InetAddress.getLoopbackAddress();
    return new Settings(folder, sheet, administrator, secret, loopback, port, null);
  }
}
