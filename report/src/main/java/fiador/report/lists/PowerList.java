package fiador.report.lists;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Grants;
import fiador.grants.Reach;
import fiador.report.shown.NoLogin;
import fiador.selection.Selection;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * What anybody may do on the whole server: powers, which no grant on a thing gives, and privileges
 * on the server itself; whether they have them or a role they hold has them.
 */
final class PowerList implements Listing {
  private final Source source;
  private final Selection selection;
  private final Reach reach;

  PowerList(Source source) {
    this.source = source;
    this.selection = source.selection();
    this.reach = new Reach(source.access());
  }

  @Override
  public List<String> fields() {
    return List.of(
        "holder", "kind", "power", "through", "first_superuser", "grantable", "cannot_log_in");
  }

  @Override
  public Counted counted() {
    return new Counted("power held", "powers held");
  }

  @Override
  public String remark() {
    return "whether one that comes through a role works at once: fiador holdings NAME";
  }

  @Override
  public void rows(Sink sink) throws IOException {
    int founder = source.access().founder();
    for (int id = 0; id < source.people().size(); id++) {
      if (!selection.takes(id) || !selection.ofRole(id)) {
        continue;
      }
      IntArrayList held = reach.up(id);
      for (int i = 0; i < held.size(); i++) {
        each(id, held.getInt(i), founder, sink);
      }
    }
  }

  private void each(int id, int from, int founder, Sink sink) throws IOException {
    for (Power power : Power.values()) {
      if (source.people().has(from, power) && selection.includesPower(power)) {
        Row row = row(id, from, power.text());
        sink.row(end(row.put("first_superuser", id == founder && power == Power.SUPERUSER), id));
      }
    }
    if (source.access().tree().kind(0) != NodeKind.SERVER || !selection.includesPower(null)) {
      return;
    }
    Grants grants = source.access().grants();
    for (int at = grants.byGrantee().from(from); at < grants.byGrantee().to(from); at++) {
      int grant = grants.byGrantee().row(at);
      if (grants.node(grant) == 0) {
        long bits = selection.among(grants.terms(grant).privileges());
        for (long rest = bits; rest != 0; rest &= rest - 1) {
          Privilege privilege = Privilege.lowest(rest);
          boolean option = (grants.terms(grant).grantable() & privilege.bit()) != 0;
          Row row = row(id, from, privilege.text() + " on the server");
          sink.row(end(row.put("grantable", option), id));
        }
      }
    }
  }

  private Row row(int id, int from, String power) {
    List<String> through = new ArrayList<>();
    IntArrayList chain = id == from ? new IntArrayList() : reach.chain(id, from);
    for (int at = 1; at < chain.size(); at++) {
      through.add(source.principal(chain.getInt(at)));
    }
    return new Row()
        .put("holder", source.principal(id))
        .put("kind", source.kind(id))
        .put("power", power)
        .put("through", through.isEmpty() ? null : through);
  }

  private java.util.Map<String, Object> end(Row row, int id) {
    return row.put("cannot_log_in", NoLogin.why(source.access(), id, source.now())).values();
  }
}
