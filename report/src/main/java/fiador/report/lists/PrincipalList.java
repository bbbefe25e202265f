package fiador.report.lists;

import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.estate.PrincipalKind;
import fiador.estate.Secret;
import fiador.report.shown.NoLogin;
import java.io.IOException;
import java.util.List;

/** Users, or roles, with how much each has. */
final class PrincipalList implements Listing {
  private final Source source;
  private final PrincipalKind kind;

  PrincipalList(Source source, PrincipalKind kind) {
    this.source = source;
    this.kind = kind;
  }

  @Override
  public List<String> fields() {
    return kind == PrincipalKind.USER
        ? List.of(
            "user",
            "roles",
            "grants",
            "owns",
            "powers",
            "cannot_log_in",
            "until",
            "secret",
            "secret_since",
            "comment",
            "limits")
        : List.of("role", "members", "roles", "grants", "owns", "powers", "in", "comment");
  }

  @Override
  public Counted counted() {
    return kind == PrincipalKind.USER ? new Counted("user", "users") : new Counted("role", "roles");
  }

  @Override
  public String remark() {
    return kind == PrincipalKind.USER
        ? "roles and grants are those given to the user directly"
        : "members, roles and grants are the direct ones; --system lists the server's own roles too";
  }

  @Override
  public void rows(Sink sink) throws IOException {
    for (int id = 1; id < source.people().size(); id++) {
      boolean own = kind == PrincipalKind.ROLE && source.access().rules().isOwn(name(id));
      boolean wanted = source.people().kind(id) == kind && source.selection().takes(id);
      wanted &= source.system() || source.selection().namesPeople() || !own;
      if (wanted && source.selection().ofRole(id)) {
        sink.row(row(id).values());
      }
    }
  }

  private String name(int id) {
    return source.access().bareName(id);
  }

  private Row row(int id) {
    var access = source.access();
    var memberships = access.memberships();
    Account account = source.people().account(id);
    boolean user = kind == PrincipalKind.USER;
    Row row = new Row().put(kind.text(), source.principal(id));
    if (!user) {
      row.count("members", memberships.membersOf().to(id) - memberships.membersOf().from(id));
    }
    row.count("roles", memberships.rolesOf().to(id) - memberships.rolesOf().from(id));
    row.count("grants", access.grants().byGrantee().to(id) - access.grants().byGrantee().from(id));
    row.count("owns", access.tree().owned().to(id) - access.tree().owned().from(id));
    List<String> powers = source.powers(id);
    row.put("powers", powers.isEmpty() ? null : powers);
    if (user) {
      row.put("cannot_log_in", NoLogin.why(access, id, source.now()));
      row.put("until", Source.time(account.until()));
      row.put("secret", account.secret() == Secret.UNKNOWN ? null : account.secret().text());
      row.put("secret_since", Source.time(account.secretSince()));
    } else {
      int scope = source.people().scope(id);
      row.put("in", scope < 0 ? null : source.shown().path(scope));
    }
    row.put("comment", account.comment());
    return user && !account.limits().isEmpty()
        ? row.put("limits", AccountLimit.text(account.limits()))
        : row;
  }
}
