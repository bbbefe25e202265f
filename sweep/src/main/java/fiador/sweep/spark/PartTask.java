package fiador.sweep.spark;

import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import fiador.sweep.estate.Before;
import fiador.sweep.estate.Changes;
import fiador.sweep.estate.EstateRows;
import fiador.sweep.estate.Known;
import fiador.sweep.tables.Table;
import fiador.sweep.tables.TableFiles;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.Serializable;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.zip.GZIPInputStream;
import org.apache.hadoop.conf.Configuration;
import org.apache.hadoop.fs.Path;
import org.jspecify.annotations.Nullable;

/**
 * Works out a part of a server, on whatever machine it is given to. It may be run twice, by a
 * worker that is thought lost and by another: each run writes to a folder of its own, and only the
 * one that is told of counts.
 *
 * @param survey the survey
 * @param part which part, from 0
 * @param parts of how many
 */
record PartTask(SurveyFile survey, int part, int parts) implements Serializable {
  /** A part for so much of a survey: some seconds of work. */
  private static final long PART_BYTES = 64L << 20;

  /** How many parts a survey is worked out in. */
  static int parts(SurveyFile survey) {
    return (int) Math.max(1, survey.weight() / PART_BYTES);
  }

  /**
   * What came of it.
   *
   * @param folder where the rows are; null where it failed
   * @param tables those that have rows
   * @param digest of the survey that was read
   * @param failed why there are no rows; null where there are
   */
  record Done(
      PartTask task,
      @Nullable String folder,
      Set<Table> tables,
      @Nullable String digest,
      EstateRows.@Nullable Counts counts,
      EstateRows.@Nullable Sum sum,
      @Nullable String failed)
      implements Serializable {}

  /** Does it; whatever is wrong with the survey is told and does not stop the others. */
  Done run(Store store, Known known, String run) {
    try {
      return work(store, known, run);
    } catch (SurveyException
        | IOException
        | RuntimeException
        | OutOfMemoryError
        | StackOverflowError fault) {
      return failed(Faults.why(fault));
    }
  }

  private Done failed(String why) {
    return new Done(this, null, Set.of(), null, null, null, why);
  }

  private Done work(Store store, Known known, String run) throws IOException, SurveyException {
    Configuration configuration = store.configuration();
    String[] digest = new String[1];
    Access access = read(survey, configuration, digest);
    EstateRows rows = new EstateRows(access, known);
    Path folder = store.fresh(run, survey.server(), part + "-" + UUID.randomUUID());
    EstateRows.Counts counts;
    Set<Table> tables = EnumSet.noneOf(Table.class);
    try (TableFiles files = new TableFiles(folder, configuration)) {
      counts = rows.write(survey.server(), part, parts, files);
      tables.addAll(files.written());
    }
    EstateRows.Sum sum = rows.sum();
    Before before = KeptServer.of(store, survey.server());
    if (before != null) {
      tables.addAll(changes(before, access, rows, sum, folder, configuration));
    }
    return new Done(this, folder.toString(), tables, digest[0], counts, sum, null);
  }

  private Set<Table> changes(
      Before before,
      Access access,
      EstateRows rows,
      EstateRows.Sum sum,
      Path folder,
      Configuration configuration)
      throws IOException {
    Instant surveyed = Instant.EPOCH.plus(sum.surveyed(), ChronoUnit.MICROS);
    Before after =
        new KeptServer(table -> new Path(folder, TableFiles.name(table)), surveyed, configuration);
    Map<String, Integer> users = new HashMap<>();
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.principals().isUser(id)) {
        users.put(access.principals().name(id), id);
      }
    }
    List<String> own = new ArrayList<>(after.accounts());
    if (part == 0) {
      before.accounts().stream().filter(name -> !users.containsKey(name)).forEach(own::add);
    }
    // the files of the part's other tables are whole; this one comes beside them
    try (TableFiles file = new TableFiles(folder, configuration)) {
      new Changes(before, after)
          .write(
              own,
              account -> users.containsKey(account) ? rows.person(users.get(account)) : null,
              (table, values) -> {
                if (table == Table.CHANGES) {
                  file.row(table, values);
                }
              });
      return file.written();
    }
  }

  static Access read(SurveyFile survey, Configuration configuration, String[] digest)
      throws IOException, SurveyException {
    Path file = new Path(survey.address());
    MessageDigest sha = Digests.sha256();
    try (InputStream in =
            new DigestInputStream(file.getFileSystem(configuration).open(file, 1 << 16), sha);
        InputStream plain =
            survey.address().endsWith(".gz") ? new GZIPInputStream(in, 1 << 16) : in) {
      Access access = SurveyReader.read(survey.address(), new Unclosed(plain));
      // what stands behind the end is part of the file too
      in.transferTo(OutputStream.nullOutputStream());
      digest[0] = HexFormat.of().formatHex(sha.digest());
      return access;
    }
  }

  /** Whoever reads a survey closes it, before all of it was seen. */
  private static final class Unclosed extends FilterInputStream {
    Unclosed(InputStream in) {
      super(in);
    }

    @Override
    public void close() {
      // whoever opened it does
    }
  }
}
