package fiador.sweep.spark;

import java.io.IOException;
import java.io.Serializable;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.List;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.FileStatus;
import org.apache.hadoop.fs.FileSystem;
import org.apache.hadoop.fs.Path;

/**
 * A survey to be worked out.
 *
 * @param server what the server is called in the sweep: the file's name within the folder
 * @param address where the file is
 * @param length its length in bytes
 */
record SurveyFile(String server, String address, long length) implements Serializable {
  private static final List<String> ENDINGS = List.of(".survey.jsonl", ".survey.jsonl.gz");

  /** The folder of a charter in which its surveys are; it is no part of a server's name. */
  private static final String KEPT_IN = ".fiador/";

  /** So much more is in a packed survey than it is long. */
  private static final int PACKED = 10;

  /** How long it is unpacked, roughly. */
  long weight() {
    return address.endsWith(".gz") ? length * PACKED : length;
  }

  /** All surveys in a folder and those below it, in the order of their names. */
  static List<SurveyFile> in(Path folder, Configuration configuration) throws IOException {
    FileSystem files = folder.getFileSystem(configuration);
    Path root = files.getFileStatus(folder).getPath();
    List<SurveyFile> found = new ArrayList<>();
    Deque<Path> folders = new ArrayDeque<>(List.of(root));
    while (!folders.isEmpty()) {
      for (FileStatus each : files.listStatus(folders.pop())) {
        if (each.isDirectory()) {
          folders.add(each.getPath());
        } else {
          add(root, each, found);
        }
      }
    }
    found.sort(Comparator.comparing(SurveyFile::server));
    return found;
  }

  private static void add(Path root, FileStatus file, List<SurveyFile> found) {
    String path = file.getPath().toUri().getPath();
    String within = path.substring(root.toUri().getPath().length()).replaceFirst("^/", "");
    for (String ending : ENDINGS) {
      if (within.endsWith(ending)) {
        String name = within.substring(0, within.length() - ending.length());
        found.add(
            new SurveyFile(name.replace(KEPT_IN, ""), file.getPath().toString(), file.getLen()));
      }
    }
  }
}
