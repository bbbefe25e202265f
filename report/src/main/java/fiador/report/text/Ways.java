package fiador.report.text;

import fiador.effects.Path;
import fiador.effects.Source;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.Terms;
import fiador.report.shown.Shown;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/** Paths in words. */
public final class Ways {
  private final Access access;
  private final Shown shown;

  public Ways(Access access, Shown shown) {
    this.access = access;
    this.shown = shown;
  }

  private static final int MOST_HOPS = 40;
  private static final int LAST_HOPS = 5;

  /** A path on one line: {@code leak_analyst > billing_read}. */
  String oneLine(Path path, int node) {
    List<String> hops = new ArrayList<>();
    for (int i = 1; i < path.chain().length; i++) {
      String name = shown.principal(path.chain()[i]);
      hops.add(path.switched() == i ? "(switch to) " + name : name);
    }
    if (path.source() instanceof Source.Owned owned) {
      hops.add(owned.node() == node ? "owner" : "owner of " + shown.node(owned.node()));
    } else if (path.source() instanceof Source.Powered powered) {
      hops.add(powered.power().text());
    } else if (hops.isEmpty()) {
      hops.add("granted directly");
    }
    if (hops.size() > MOST_HOPS) {
      int left = hops.size() - MOST_HOPS + 1;
      List<String> end = List.copyOf(hops.subList(hops.size() - LAST_HOPS, hops.size()));
      hops = new ArrayList<>(hops.subList(0, MOST_HOPS - LAST_HOPS - 1));
      hops.add("... " + left + " more");
      hops.addAll(end);
    }
    return String.join(" > ", hops);
  }

  /** The hops of a path below each other, each with how it is held; then what the last one has. */
  public List<String> tree(Path path, long privilege, int node) {
    List<String[]> lines = new ArrayList<>();
    int[] chain = path.chain();
    lines.add(new String[] {shown.principal(chain[0]), ""});
    for (int i = 1; i < chain.length; i++) {
      String how = how(chain[i - 1], chain[i]);
      String note =
          path.switched() == i ? "after switching to it" + (how.isEmpty() ? "" : ", " + how) : how;
      lines.add(new String[] {shown.principal(chain[i]), note});
    }
    lines.add(new String[] {source(path.source(), privilege, node), ""});
    if (lines.size() > MOST_HOPS) {
      // each stands further in than the one before, so a long chain would fill every disk
      List<String[]> end = List.copyOf(lines.subList(lines.size() - LAST_HOPS, lines.size()));
      int left = lines.size() - MOST_HOPS + 1;
      lines = new ArrayList<>(lines.subList(0, MOST_HOPS - LAST_HOPS - 1));
      lines.add(new String[] {"... " + left + " more between", ""});
      lines.addAll(end);
    }
    List<String> text = new ArrayList<>();
    for (int i = 0; i < lines.size(); i++) {
      String indent = i == 0 ? "" : "   ".repeat(i - 1) + "`- ";
      String line = indent + lines.get(i)[0];
      String note = lines.get(i)[1];
      text.add(note.isEmpty() ? line : line + " ".repeat(Math.max(2, 34 - line.length())) + note);
    }
    return text;
  }

  private String how(int member, int role) {
    if (role == Principals.PUBLIC) {
      return "everybody";
    }
    Memberships memberships = access.memberships();
    for (int at = memberships.rolesOf().from(member); at < memberships.rolesOf().to(member); at++) {
      int edge = memberships.rolesOf().row(at);
      if (memberships.role(edge) == role) {
        Membership options = memberships.options(edge);
        if (options.implicit()) {
          return "as owner of the database";
        }
        int by = memberships.grantor(edge);
        return by < 0 ? "" : "given by " + shown.principal(by);
      }
    }
    return "";
  }

  private String source(Source source, long privilege, int node) {
    String what = PrivilegeSet.text(privilege).toUpperCase(java.util.Locale.ROOT);
    if (source instanceof Source.Owned owned) {
      return "owns " + shown.node(owned.node());
    } else if (source instanceof Source.Powered powered) {
      return "has the power " + powered.power().text();
    }
    int row = ((Source.Granted) source).row();
    Terms terms = access.grants().terms(row);
    int on = access.grants().node(row);
    StringBuilder text = new StringBuilder(what);
    if (access.grants().columns(row) != ColumnSets.WHOLE) {
      BitSet columns = new BitSet();
      for (int ordinal : access.columnSets().ordinals(access.grants().columns(row))) {
        columns.set(ordinal);
      }
      text.append(" (").append(shown.columns(on, columns)).append(")");
    }
    text.append(" on ");
    if (terms.covers() != 0 && on != node) {
      text.append("every ").append(access.tree().kind(node).text()).append(" in ");
    }
    text.append(shown.node(on));
    if (terms.label() != Terms.NO_LABEL) {
      text.append(", by the label ").append(shown.label(terms));
    }
    if (source.grantable()) {
      text.append(", may grant it");
    }
    int by = access.grants().grantor(row);
    boolean byOwner = by >= 0 && by == access.tree().owner(on);
    if (by >= 0 && !byOwner && access.tree().kind(on) != NodeKind.SERVER) {
      text.append(", granted by ").append(shown.principal(by));
    }
    return text.toString();
  }
}
