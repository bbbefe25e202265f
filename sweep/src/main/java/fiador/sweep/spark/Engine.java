package fiador.sweep.spark;

import java.security.SecureRandom;
import java.util.HexFormat;
import org.apache.spark.sql.SparkSession;

/** Spark, in this process, or where the process was submitted to. */
final class Engine {
  private Engine() {}

  /**
   * The session. In this process it listens on the loopback alone, shows no page, and keeps files
   * to their owner.
   *
   * @param cores how many threads work, where it runs in this process
   */
  static SparkSession session(int cores) {
    SparkSession.Builder builder =
        SparkSession.builder()
            .appName("fiador sweep")
            .config("spark.sql.session.timeZone", "UTC")
            .config("spark.hadoop.fs.permissions.umask-mode", "077");
    boolean submitted = System.getProperty("spark.master") != null;
    if (!submitted) {
      builder
          .master("local[" + cores + "]")
          .config("spark.driver.host", "127.0.0.1")
          .config("spark.driver.bindAddress", "127.0.0.1")
          // whoever else is on this machine could talk to the engine
          .config("spark.authenticate", "true")
          .config("spark.authenticate.secret", secret())
          .config("spark.network.crypto.enabled", "true")
          .config("spark.ui.enabled", "false")
          .config("spark.ui.showConsoleProgress", "false")
          .config("spark.sql.shuffle.partitions", String.valueOf(4 * cores))
          // a file of checksums beside each file would double their number
          .config("spark.hadoop.fs.file.impl", OwnDisk.class.getName());
    }
    return builder.getOrCreate();
  }

  private static String secret() {
    byte[] random = new byte[32];
    new SecureRandom().nextBytes(random);
    return HexFormat.of().formatHex(random);
  }
}
