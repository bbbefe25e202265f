package fiador.standin.serving;

import fiador.standin.estate.Principal;
import fiador.standin.estate.Session;
import java.sql.Connection;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/** Somebody at work: who they are, what is on, and their line to the rows. */
final class Visit implements AutoCloseable {
  private final String id;
  private final Connection rows;
  private final int hops;
  private Session session;
  private @Nullable Principal behind;
  private long lastUsed;

  Visit(String id, Session session, Connection rows, int hops, long now) {
    this.id = id;
    this.session = session;
    this.rows = rows;
    this.hops = hops;
    this.lastUsed = now;
  }

  String id() {
    return id;
  }

  Connection rows() {
    return rows;
  }

  /** Over how many servers they came. */
  int hops() {
    return hops;
  }

  Session session() {
    return session;
  }

  void session(Session switched) {
    this.session = switched;
  }

  /** Who logged in, where they act as somebody else; null where not. */
  @Nullable Principal behind() {
    return behind;
  }

  /** Says who is behind it, which later changes do not make another. */
  void behind(Principal who) {
    if (behind == null) {
      behind = who;
    }
  }

  void used(long now) {
    this.lastUsed = now;
  }

  boolean idle(long since) {
    return lastUsed < since;
  }

  @Override
  public void close() {
    try {
      rows.close();
    } catch (SQLException broken) {
      // it is thrown away
    }
  }
}
