package fiador.sweep.estate;

import fiador.across.Atlas;
import fiador.across.Inflows;
import fiador.across.Inflows.Hop;
import fiador.across.Inflows.Inflow;
import fiador.across.Inflows.Reader;
import fiador.across.Leg.Answer;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.evidence.PeopleOf;
import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.policies.Seeing;
import fiador.report.rows.HoldingRows;
import fiador.report.shown.NoLogin;
import fiador.sweep.tables.Sink;
import fiador.sweep.tables.Table;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Who reads tables of servers over other servers, of some that lead to each other. */
public final class Arrivals {
  private final Map<String, Access> servers;
  private final Map<Origin, String> names = new HashMap<>();
  private final Map<Origin, PeopleOf> people = new HashMap<>();
  private final Atlas atlas;
  private final Clock clock;
  private final @Nullable Identities identities;

  /** Of surveys, by what the servers are called in the sweep. */
  public Arrivals(Map<String, Access> servers, Known known) {
    this.servers = servers;
    this.atlas = new Atlas(List.copyOf(servers.values()));
    this.clock = Clock.fixed(Instant.ofEpochSecond(known.now()), ZoneOffset.UTC);
    this.identities = known.identities();
    servers.forEach((name, access) -> names.putIfAbsent(access.about(), name));
  }

  /** Writes who comes to a server of them. Cost: as {@link Inflows}, for each table led to. */
  public void write(String server, Sink sink) throws IOException {
    Access target = servers.get(server);
    boolean newest =
        target != null && atlas.all().stream().anyMatch(one -> one.about().equals(target.about()));
    if (target == null || !newest) {
      return;
    }
    Inflows inflows = new Inflows(atlas, clock);
    Seeing seeing = new Seeing(target);
    for (int node : inflows.targets(target)) {
      for (Inflow inflow : inflows.to(target, node)) {
        for (Reader reader : inflow.readers()) {
          row(seeing, target, node, inflow, reader, sink);
        }
      }
    }
  }

  private void row(Seeing seeing, Access target, int node, Inflow inflow, Reader reader, Sink sink)
      throws IOException {
    Access from = inflow.from();
    Identity person = person(from, reader.user());
    boolean whole = inflow.columns().cardinality() == target.tree().columns(node);
    List<String> columns = new ArrayList<>();
    inflow.columns().stream().forEach(at -> columns.add(target.tree().column(node, at)));
    List<String> across = new ArrayList<>();
    for (Hop hop : inflow.hops()) {
      for (int on : hop.path()) {
        across.add(name(hop.at()) + ":" + hop.at().tree().path(on));
      }
    }
    Map<String, Object> sight = new HashMap<>();
    if (inflow.login() >= 0 && seeing.decides(node)) {
      BitSet shown = whole ? null : inflow.columns();
      HoldingRows.sight(seeing.of(inflow.login(), node), shown, target, sight);
    }
    sink.row(
        Table.ARRIVALS,
        target.tree().kind(node).contractName(),
        target.tree().path(node),
        whole ? null : columns,
        reader.state().text(),
        sight.get("rows"),
        sight.get("masked"),
        reader.answer() == Answer.OPEN,
        inflow.login() < 0 ? null : target.principals().name(inflow.login()),
        name(from),
        from.principals().name(reader.user()),
        person == null ? null : person.key(),
        person == null ? null : person.name(),
        NoLogin.why(from, reader.user(), clock.instant()),
        across);
  }

  private String name(Access access) {
    String name = names.get(access.about());
    return name == null ? access.about().server() : name;
  }

  private @Nullable Identity person(Access access, int user) {
    Identities list = identities;
    return list == null
        ? null
        : people.computeIfAbsent(access.about(), at -> new PeopleOf(access, list)).of(user);
  }
}
