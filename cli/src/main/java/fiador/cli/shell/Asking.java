package fiador.cli.shell;

import fiador.across.Atlas;
import fiador.changes.Gap;
import fiador.changes.Supposing;
import fiador.changes.Supposing.Supposed;
import fiador.changes.outcome.PeopleEffects;
import fiador.estate.Principals;
import fiador.files.charter.CharterReader;
import fiador.files.charter.Supposition;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Unread;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.shown.Shown;
import fiador.report.text.ChangeText;
import fiador.work.charters.Choosing;
import fiador.work.charters.Chosen;
import fiador.work.charters.Neighbours;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** Commands that ask something of an estate. */
public abstract class Asking extends Common {
  public String from;
  protected String at;
  private boolean atOnce;
  private List<String> suppose = List.of();
  private List<String> across = List.of();
  private Gap supposed;
  public Format format = Format.TEXT;

  @Override
  public void options(Options options) {
    super.options(options);
    options.option(
        "--from",
        "X",
        value -> from = value,
        "What to answer from: a survey file; a charter's folder (its newest survey, else the charter",
        "itself); or a server of the charter here, surveyed afresh. Else the charter's folder here.");
    options.option(
        "--at",
        "WHEN",
        value -> at = value,
        "Answers for a day that is past, from the ledger: 2026-03-03 (the end of it) or",
        "2026-03-03T14:00, in UTC.");
    options.flag(
        "--at-once",
        given -> atOnce = given,
        "On a terminal, shows a long answer at once, not through the program that PAGER names.");
    formats(options);
  }

  /** Takes the form of the answer, where there is more than one. */
  protected void formats(Options options) {
    options.format(value -> format = value, "text, json, jsonl, csv or markdown.");
  }

  /** Takes what is supposed, for answers that change nothing. */
  protected void suppositions(Options options) {
    options.list(
        "--suppose",
        "SENTENCE",
        String.class,
        value -> suppose = value,
        "Answers as if it were so: \"NAME holds ROLE\" or \"NAME may select on OBJECT\", with \"not\" in",
        "front as if it were taken; can be given several times. Nothing is written.");
  }

  /** Takes the surveys of other servers that ways may lead to, or come from. */
  protected void neighbours(Options options) {
    options.list(
        "--across",
        "X",
        String.class,
        value -> across = value,
        "Surveys of other servers, for tables that are really there: a file, or a folder of such; can be",
        "given several times. Else those of the charter's other servers.");
  }

  /** The survey that is asked with those of other servers. */
  protected Atlas atlas(Access home) throws Refusal, IOException {
    return neighbours().around(home, across, charted());
  }

  private Neighbours neighbours() {
    return new Neighbours(surveys(), this::note);
  }

  /** All servers of the charter that is asked, where no one of them is meant. */
  protected Atlas atlas() throws Refusal, IOException {
    Path folder = charted();
    boolean several =
        folder != null
            && Files.isRegularFile(folder.resolve(CharterReader.ROOT))
            && at == null
            && suppose.isEmpty();
    return several ? neighbours().all(across, folder) : atlas(access());
  }

  /** The folder that may be a charter's; null where a survey or a server is asked. */
  protected final @Nullable Path charted() {
    boolean folder = from == null || Files.isDirectory(Path.of(from));
    return folder ? Path.of(from == null ? "" : from) : null;
  }

  @Override
  public boolean isPaged() {
    return !atOnce && format == Format.TEXT;
  }

  /** Reads what is to be asked, and says what has to be known of it. */
  public Access access() throws Refusal, IOException {
    Chosen chosen = new Choosing(Path.of(""), clock, this::note, surveys()).choose(from, at);
    clock = chosen.clock();
    if (chosen.onPaper()) {
      String server = chosen.access().about().server();
      note("no survey of " + server + " yet, so only what the charter names is known");
    } else if (chosen.past() != null) {
      note(certainty(chosen.past()));
    }
    return suppose.isEmpty() ? chosen.access() : supposing(chosen.access());
  }

  private Access supposing(Access access) throws BadInput {
    List<Supposed> all = new ArrayList<>();
    for (String sentence : suppose) {
      all.add(Supposition.read(sentence));
    }
    supposed = Supposing.of(access, all, clock);
    return supposed.outcome().after().supposed();
  }

  /** Of what is supposed, what it changes, as far as the answer was about it. */
  public void sayDifference(Predicate<PeopleEffects.Change> about) {
    if (supposed == null || format != Format.TEXT) {
      return;
    }
    Gap part =
        new Gap(
            supposed.before(),
            supposed.plan(),
            supposed.outcome(),
            supposed.effects().stream().filter(about).toList(),
            List.of());
    String changes = new ChangeText(part, width()).text();
    out.print("\nbeside what is so now\n");
    out.print(changes.isEmpty() ? "  nothing changes\n" : changes);
  }

  /** What would be so without what is supposed; null where nothing is. */
  public Access withoutSupposed() {
    return supposed == null ? null : supposed.before();
  }

  /** Whether something is supposed. */
  protected boolean isSupposing() {
    return !suppose.isEmpty();
  }

  /** What is supposed, as a change, once the estate was asked for; null where nothing is. */
  protected Gap supposition() {
    return supposed;
  }

  private static String certainty(Chosen.Past past) {
    String said = "the last survey until then is of " + Shown.time(past.taken());
    if (past.next() == null) {
      return said + "; there is none after it";
    }
    String when = Shown.time(past.next());
    return past.same()
        ? said + "; the next, of " + when + ", found the same"
        : said + "; the next, of " + when + ", found something else: fiador history";
  }

  /** What an answer cannot know of. */
  public void sayUnread(Access access) {
    String unread = Unread.inWords(access);
    if (!unread.isEmpty()) {
      say("note: the survey did not look into " + unread + "; what is held there is not known");
    }
  }

  /**
   * The thing of that name, or its column. A name without its schema will do where there is but
   * one; what it was taken for is then said.
   *
   * @param privileges as for {@link Lookup#node}
   * @param withColumn as for {@link Lookup#node}
   */
  public Lookup.Found thing(Access access, String path, long privileges, boolean withColumn)
      throws BadInput {
    return Things.found(access, path, privileges, withColumn, this::note);
  }

  /** The principal of that name. */
  public static int principal(Access access, String name) throws BadInput {
    Lookup lookup = new Lookup(access);
    Lookup.Found found = lookup.principal(name);
    if (!found.ok()) {
      Lookup.Found thing = lookup.node(name, 0, false);
      throw new BadInput(
          thing.ok()
              ? name
                  + " is a "
                  + access.tree().kind(thing.id()).text()
                  + " and no user or role; who holds it: fiador holders "
                  + name
              : found.problem());
    }
    if (found.id() == Principals.PUBLIC) {
      throw new BadInput("PUBLIC is everybody; ask for a user or a role");
    }
    return found.id();
  }
}
