package fiador.standin.serving;

import fiador.standin.deeds.Deed;
import fiador.standin.deeds.DeedReader;
import fiador.standin.deeds.Doing;
import fiador.standin.deeds.Kept;
import fiador.standin.estate.Judge;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Session;
import fiador.standin.estate.Warehouse;
import fiador.standin.house.House;
import fiador.standin.keeping.Engine;
import fiador.standin.keeping.Entry;
import fiador.standin.keeping.Fetching;
import fiador.standin.keeping.Head;
import fiador.standin.keeping.Journal;
import fiador.standin.keeping.Store;
import fiador.standin.keeping.Vault;
import fiador.standin.queries.Statements;
import fiador.standin.queries.Statements.Ready;
import fiador.standin.queries.Use;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.locks.ReadWriteLock;
import java.util.concurrent.locks.ReentrantReadWriteLock;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Where statements are taken: read, allowed or refused, carried out, kept and noted. */
final class Desk implements AutoCloseable {
  private static final int SECONDS = 30;
  private static final int MOST_ROWS = 5_000_000;
  private static final int FETCH = 1_000;
  private static final Pattern WOULD = Pattern.compile("\\s*would\\s+", Pattern.CASE_INSENSITIVE);

  private final House house;
  private final Warehouse warehouse;
  private final Judge judge;
  private final Statements statements;
  private final Journal journal;
  private final Store store;
  private final Clock clock;
  private final ReadWriteLock lock = new ReentrantReadWriteLock();
  private volatile boolean broken;

  /**
   * All that the journal says, carried out again.
   *
   * @param folder where the rows are
   */
  Desk(House house, Journal journal, Path folder, Clock clock) throws IOException {
    Head head = journal.head();
    this.house = house;
    this.journal = journal;
    this.clock = clock;
    this.warehouse = new Warehouse(head.administrator());
    this.judge = new Judge(house, warehouse);
    this.statements = new Statements(house, warehouse);
    Objects.requireNonNull(warehouse.principal(head.administrator())).secret(head.secret(), true);
    String url =
        "jdbc:h2:file:"
            + folder.resolve("rows").toAbsolutePath()
            + ";WRITE_DELAY=0;CASE_INSENSITIVE_IDENTIFIERS=TRUE;DB_CLOSE_ON_EXIT=FALSE";
    try {
      this.store = new Store(url, head.engine(), Vault.in(folder), house, warehouse, statements);
    } catch (SQLException wrong) {
      throw new IOException(
          "the rows in " + folder + " cannot be opened: " + wrong.getMessage(), wrong);
    }
    for (Entry entry : journal.entries()) {
      again(entry);
    }
    try {
      store.tidy();
    } catch (SQLException wrong) {
      throw new IOException("the rows in " + folder + " cannot be tidied", wrong);
    }
  }

  private void again(Entry entry) throws IOException {
    Principal as = warehouse.principal(entry.as());
    if (as == null) {
      throw new IOException("the journal names " + entry.as() + ", who is not there");
    }
    Principal user = Objects.requireNonNullElse(warehouse.principal(entry.user()), as);
    Session session = new Session(user, as, Set.of(as), Set.of(as), null);
    Doing doing = new Doing(house, warehouse, store, session, entry.deed(), entry.kept(), true);
    try {
      DeedReader.read(entry.deed(), house.folding()).carryOut(doing);
    } catch (MistakeException | RefusedException wrong) {
      throw new IOException(
          "the journal cannot be carried out again: " + entry.deed() + ": " + wrong.getMessage(),
          wrong);
    }
    warehouse.changed();
  }

  House house() {
    return house;
  }

  /** What a user's secret is checked against; null where nobody can log in so. */
  @Nullable String secret(String user) {
    lock.readLock().lock();
    try {
      Principal found = warehouse.principal(user);
      return found == null || !found.isUser() || found.locked() ? null : found.secret();
    } finally {
      lock.readLock().unlock();
    }
  }

  /**
   * Opens a visit for somebody whose secret was right.
   *
   * @param hops over how many servers they came
   * @throws RefusedException when a gate keeps them out altogether
   */
  Visit visit(String user, String id, int hops) throws RefusedException, SQLException {
    lock.readLock().lock();
    try {
      Principal found = Objects.requireNonNull(warehouse.principal(user));
      Session session = judge.login(found);
      String missing = judge.missingToEnter(session);
      if (missing != null) {
        throw new RefusedException(missing);
      }
      return new Visit(id, session, store.connect(), hops, clock.millis());
    } finally {
      lock.readLock().unlock();
    }
  }

  /** Carries a statement out. */
  void run(Visit visit, String text, Answer answer)
      throws RefusedException, MistakeException, IOException {
    synchronized (visit) {
      if (broken) {
        throw new IOException("the journal cannot be written; the stand-in must be started anew");
      }
      visit.used(clock.millis());
      refresh(visit);
      if (DeedReader.isDeed(text)) {
        deed(visit, text);
        answer.done(null);
      } else if (WOULD.matcher(text).lookingAt()) {
        would(visit, WOULD.matcher(text).replaceFirst(""));
        answer.done(null);
      } else {
        rows(visit, text, answer);
      }
    }
  }

  /** What others have given and taken meanwhile counts from the next statement on. */
  private void refresh(Visit visit) throws RefusedException {
    lock.readLock().lock();
    try {
      Session then = visit.session();
      boolean gone = warehouse.principal(then.user().name()) != then.user() || then.user().locked();
      if (gone) {
        throw new RefusedException(then.user() + " is no longer let in");
      }
      Principal behind = visit.behind();
      if (behind != null && !isStillBehind(behind)) {
        throw new RefusedException(behind + " may no longer act as somebody else");
      }
      Session now = judge.login(then.user());
      RefusedException beyond =
          behind == null ? null : judge.seals().beyond(judge.login(behind), then.user());
      if (beyond != null) {
        throw beyond;
      }
      visit.session(now);
      List<Principal> chosen = then.chosen();
      if (chosen != null) {
        visit.session(judge.with(now, chosen));
      }
    } catch (MistakeException never) {
      throw new IllegalStateException(never);
    } finally {
      lock.readLock().unlock();
    }
  }

  private boolean isStillBehind(Principal who) {
    boolean there = warehouse.principal(who.name()) == who && !who.locked();
    return there && judge.administers(judge.login(who));
  }

  private void deed(Visit visit, String text)
      throws RefusedException, MistakeException, IOException {
    Deed deed = DeedReader.read(text, house.folding());
    try {
      carryOut(visit, text, deed);
    } catch (RefusedException refused) {
      if (refused.thing() != null && refused.privilege() != null) {
        note(visit, true, List.of(new Use(refused.privilege(), refused.thing())));
      }
      throw refused;
    }
  }

  private void carryOut(Visit visit, String text, Deed deed)
      throws RefusedException, MistakeException, IOException {
    lock.writeLock().lock();
    try {
      Session before = visit.session();
      Kept kept = new Kept();
      kept.setBehind(visit.behind() == null ? null : visit.behind().name());
      Doing doing = new Doing(house, warehouse, store, before, text, kept, false);
      deed.carryOut(doing);
      if (doing.switched()) {
        if (doing.session().user() != before.user()) {
          visit.behind(before.user());
        }
        visit.session(doing.session());
        return;
      }
      warehouse.changed();
      keep(
          new Entry(
              clock.instant().toString(),
              before.user().name(),
              before.acting().name(),
              doing.text(),
              doing.kept()));
      doing.dropped().forEach(store::drop);
    } finally {
      lock.writeLock().unlock();
    }
  }

  /** What cannot be kept is not answered, and nothing is any more: it would be lost. */
  private void keep(Entry entry) throws IOException {
    try {
      journal.add(entry);
    } catch (IOException lost) {
      broken = true;
      throw lost;
    }
  }

  private void rows(Visit visit, String text, Answer answer)
      throws RefusedException, MistakeException, IOException {
    List<Use> uses = new ArrayList<>();
    Session session = visit.session();
    try {
      Ready ready = ready(session, text, uses);
      run(visit, ready, (what, statement) -> carryOut(visit, what, statement, answer));
    } catch (RefusedException refused) {
      note(visit, true, uses);
      throw refused;
    }
  }

  /** Says whether a statement would be allowed; nothing is carried out, and nothing noted. */
  private void would(Visit visit, String text)
      throws RefusedException, MistakeException, IOException {
    if (DeedReader.isDeed(text)) {
      throw new MistakeException("only statements that read or change rows are asked about");
    }
    run(
        visit,
        ready(visit.session(), text, new ArrayList<>()),
        (ready, statement) -> statement.execute("EXPLAIN " + ready.sql()));
  }

  private Ready ready(Session session, String text, List<Use> uses)
      throws RefusedException, MistakeException, IOException {
    lock.readLock().lock();
    try {
      Ready ready = statements.ready(text, session, uses::addAll);
      if (ready.catalog()) {
        store.fill();
      }
      return ready;
    } catch (SQLException broken) {
      throw new IOException("the catalog cannot be told", broken);
    } finally {
      lock.readLock().unlock();
    }
  }

  /** What is done with a statement that is ready. */
  private interface Carried {
    void out(Ready ready, Statement statement) throws SQLException, IOException;
  }

  private void run(Visit visit, Ready ready, Carried how)
      throws RefusedException, MistakeException, IOException {
    if (ready.fetches().isEmpty()) {
      runHere(visit, ready, how);
      return;
    }
    try {
      Fetching fetched = store.fetched(ready.fetches(), visit.hops());
      try {
        runHere(visit, ready, how);
      } finally {
        fetched.close();
      }
    } catch (SQLException broken) {
      throw new IOException("what is elsewhere cannot be kept here for a while", broken);
    }
  }

  private void runHere(Visit visit, Ready ready, Carried how)
      throws RefusedException, MistakeException, IOException {
    try (Statement statement = visit.rows().createStatement()) {
      statement.setQueryTimeout(SECONDS);
      how.out(ready, statement);
    } catch (SQLException wrong) {
      String column = Engine.missed(wrong, ready.hidden());
      if (column != null) {
        throw new RefusedException(visit.session().acting() + " may not read the column " + column);
      }
      throw new MistakeException(Engine.said(wrong));
    }
  }

  /** What works is noted before it is answered. */
  private void carryOut(Visit visit, Ready ready, Statement statement, Answer answer)
      throws SQLException, IOException {
    if (!ready.query()) {
      long changed = statement.executeLargeUpdate(ready.sql());
      note(visit, false, ready.uses());
      answer.done(changed);
      return;
    }
    statement.setMaxRows(MOST_ROWS);
    statement.setFetchSize(FETCH);
    try (ResultSet found = statement.executeQuery(ready.sql())) {
      note(visit, false, ready.uses());
      answer.rows(found);
    }
  }

  /** Whoever acts as somebody else did it, and not they. */
  private void note(Visit visit, boolean refused, List<Use> uses) throws IOException {
    Principal behind = visit.behind();
    Principal user = behind == null ? visit.session().user() : behind;
    Principal acting = visit.session().acting();
    try {
      store.note(Instant.now(clock), user, acting, refused, Store.once(uses));
    } catch (SQLException broken) {
      throw new IOException("what was used cannot be noted", broken);
    }
  }

  @Override
  public void close() throws IOException {
    lock.writeLock().lock();
    try {
      store.close();
    } catch (SQLException broken) {
      throw new IOException(broken);
    } finally {
      lock.writeLock().unlock();
      journal.close();
    }
  }
}
