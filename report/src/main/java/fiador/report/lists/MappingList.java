package fiador.report.lists;

import fiador.estate.Principals;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.report.text.Places;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Who goes on to other servers as whom. */
final class MappingList implements Listing {
  private final Source source;

  MappingList(Source source) {
    this.source = source;
  }

  @Override
  public List<String> fields() {
    return List.of("who", "server", "login", "address", "secret", "remark");
  }

  @Override
  public Counted counted() {
    return new Counted("user mapping", "user mappings");
  }

  @Override
  public void rows(Sink sink) throws IOException {
    Abroad abroad = source.access().seen().abroad();
    for (Abroad.Login login : abroad.logins()) {
      boolean everybody = login.who() == Principals.PUBLIC;
      if (!source.selection().takes(login.who())) {
        continue;
      }
      Abroad.Place place = abroad.places().get(login.place());
      sink.row(
          new Row()
              .put("who", source.principal(login.who()))
              .put("server", Places.name(place))
              .put("login", login.user())
              .put("address", Places.address(place))
              .put("secret", login.shown() ? login.secret() ? "kept" : "none" : "not shown")
              .put("remark", remark(login, place, everybody))
              .values());
    }
  }

  private String remark(Abroad.Login login, Abroad.Place place, boolean everybody) {
    List<String> said = new ArrayList<>();
    Access there = source.atlas().at(source.access(), place);
    int user = there == null || login.user() == null ? -1 : there.principals().named(login.user());
    if (user >= 0 && there.isSuperuser(user)) {
      said.add("a superuser there");
    } else if (there != null && login.user() != null && user < 0) {
      said.add("nobody has that name there");
    }
    if (!login.shown()) {
      said.add("the survey's login was not shown what is in it");
    }
    if (everybody) {
      said.add("for everybody without a mapping of their own");
    }
    if (!login.secretNeeded()) {
      said.add("goes on without a secret");
    }
    return said.isEmpty() ? null : String.join("; ", said);
  }
}
