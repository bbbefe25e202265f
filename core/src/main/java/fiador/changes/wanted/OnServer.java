package fiador.changes.wanted;

import fiador.changes.wanted.Accounts.Account;
import fiador.changes.wanted.Wanted.Governs;
import fiador.changes.wanted.Wanted.Grant;
import fiador.changes.wanted.Wanted.LoginTerms;
import fiador.changes.wanted.Wanted.Member;
import fiador.changes.wanted.Wanted.Principal;
import fiador.changes.wanted.WantedSight.Masks;
import fiador.changes.wanted.WantedSight.Rows;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.In;
import fiador.predicates.Expression.Literal;
import fiador.predicates.Expression.UserName;
import fiador.predicates.PredicateReader.Read;
import fiador.predicates.Rewriting;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A charter as it is for one server: users go by the accounts they have there, and who has none
 * there is not wanted there. Cost: what the charter says.
 */
public final class OnServer {
  private final String server;
  private final Accounts accounts;

  public OnServer(String server, Accounts accounts) {
    this.server = server;
    this.accounts = accounts;
  }

  /** What a user or role is called there; null for a user who has no account there. */
  public @Nullable String name(String written) {
    Account account = accounts.on(server, written);
    return account != null ? account.name() : accounts.isOn(server, written) ? written : null;
  }

  /** The same, and the charter's own name for whoever has no account. */
  public String nameOrOwn(String written) {
    return Objects.requireNonNullElse(name(written), written);
  }

  private List<String> names(List<String> written) {
    return written.stream().map(this::name).filter(Objects::nonNull).toList();
  }

  /** What values by user are there. */
  public <V> Map<String, V> keys(Map<String, V> byUser) {
    Map<String, V> found = new LinkedHashMap<>();
    byUser.forEach(
        (user, value) -> {
          String name = name(user);
          if (name != null) {
            found.put(name, value);
          }
        });
    return found;
  }

  /** What is wanted there. */
  public Wanted wanted(Wanted all) {
    List<Principal> users = new ArrayList<>();
    for (Principal user : all.users()) {
      String name = name(user.name());
      if (name != null) {
        users.add(called(user, name));
      }
    }
    Governs governs = all.governs();
    return new Wanted(
        all.roles(),
        users,
        all.memberships().stream().map(this::member).filter(Objects::nonNull).toList(),
        all.grants().stream().map(this::grant).filter(Objects::nonNull).toList(),
        all.refused().stream().map(this::grant).filter(Objects::nonNull).toList(),
        all.owned(),
        new Governs(
            governs.schemas(), governs.roles(), governed(governs.users()), governs.everybody()),
        sight(all.sight()));
  }

  /**
   * Also what is called as the charter calls a user and is none of theirs: nothing of it is left.
   */
  private List<String> governed(List<String> written) {
    Set<String> found = new LinkedHashSet<>();
    for (String each : written) {
      found.add(nameOrOwn(each));
      found.add(each);
    }
    return List.copyOf(found);
  }

  private Principal called(Principal user, String name) {
    Account account = accounts.on(server, user.name());
    LoginTerms login = user.login();
    List<String> hosts =
        account == null || account.hosts().isEmpty() ? login.hosts() : account.hosts();
    return new Principal(
        name,
        new LoginTerms(login.disabled(), login.until(), hosts, login.limits()),
        user.knownIn(),
        user.was(),
        user.powers(),
        user.place());
  }

  private @Nullable Member member(Member one) {
    String member = name(one.member());
    String role = name(one.role());
    return member == null || role == null
        ? null
        : new Member(member, role, one.how(), one.when(), one.place());
  }

  private @Nullable Grant grant(Grant one) {
    String grantee = name(one.grantee());
    String maker = one.madeBy() == null ? null : name(one.madeBy());
    // nothing will be made there by somebody who is not there
    boolean later = one.later() && (one.madeBy() == null || maker != null);
    if (grantee == null || one.later() && !later && !one.now()) {
      return null;
    }
    return new Grant(
        grantee,
        one.actions(),
        one.target(),
        one.now(),
        later,
        one.grantOption(),
        maker,
        one.when(),
        one.place());
  }

  private WantedSight sight(WantedSight all) {
    return new WantedSight(
        all.rows().stream().map(this::rows).toList(),
        all.masks().stream().map(this::masks).toList(),
        keys(all.attributes()),
        all.lookups(),
        all.labels(),
        seals(all.seals()),
        all.decided());
  }

  /** Seals that are open to the accounts there. */
  public List<Seal> seals(List<Seal> all) {
    return all.stream()
        .map(seal -> new Seal(seal.name(), seal.on(), names(seal.openTo()), seal.place()))
        .toList();
  }

  private Rows rows(Rows one) {
    return new Rows(
        one.name(),
        one.on(),
        one.uses(),
        about(one.applies()),
        about(one.exempts()),
        new Read(about(one.predicate().expression()), one.predicate().places()),
        one.predicateAt(),
        one.any(),
        one.bindsWriting(),
        one.view(),
        one.place());
  }

  private Masks masks(Masks one) {
    Read clear = one.clearWhere();
    return new Masks(
        one.name(),
        one.columns(),
        one.labels(),
        one.schemas(),
        one.uses(),
        about(one.applies()),
        clear == null ? null : new Read(about(clear.expression()), clear.places()),
        one.clearWhereAt(),
        one.byKind(),
        one.rank(),
        one.view(),
        one.place());
  }

  /** An expression that asks who somebody is. */
  private Expression about(Expression expression) {
    return Rewriting.of(
        expression,
        part -> {
          if (part instanceof Compare compare && compare.left() instanceof UserName) {
            return new Compare(compare.how(), compare.left(), who(compare.right()));
          } else if (part instanceof Compare compare && compare.right() instanceof UserName) {
            return new Compare(compare.how(), who(compare.left()), compare.right());
          } else if (part instanceof In in && in.item() instanceof UserName) {
            return new In(in.item(), in.options().stream().map(this::who).toList());
          }
          return part;
        });
  }

  /** Nobody there is called as the charter calls somebody who has no account there. */
  private Expression who(Expression named) {
    if (named instanceof Literal literal && literal.value() instanceof String text) {
      String name = name(text);
      return Expression.text(name == null ? "" : CharterSubjects.unquoted(name));
    }
    return named;
  }
}
