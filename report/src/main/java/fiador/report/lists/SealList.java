package fiador.report.lists;

import fiador.grants.Sights.Seal;
import fiador.policies.Sealing;
import fiador.policies.Sealing.Passing;
import java.io.IOException;
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import java.util.TreeSet;

/** Seals: what they close, who may in, and who gets in anyway. */
final class SealList implements Listing {
  private final Source source;

  SealList(Source source) {
    this.source = source;
  }

  @Override
  public List<String> fields() {
    return List.of("seal", "on", "open_to", "passed_by");
  }

  @Override
  public Counted counted() {
    return new Counted("seal", "seals");
  }

  @Override
  public void rows(Sink sink) throws IOException {
    Sealing sealing = new Sealing(source.access(), Clock.fixed(source.now(), ZoneOffset.UTC));
    for (Seal seal : source.access().sights().seals()) {
      if (seal.on().stream().noneMatch(source.selection()::includes)) {
        continue;
      }
      TreeSet<String> passed = new TreeSet<>();
      sealing.passing(seal, (Passing one) -> passed.add(source.principal(one.user())));
      sink.row(
          new Row()
              .put("seal", seal.name())
              .put("on", seal.on().stream().map(node -> source.shown().path(node)).toList())
              .put("open_to", seal.openTo().stream().map(source::principal).toList())
              .put("passed_by", passed.isEmpty() ? null : List.copyOf(passed))
              .values());
    }
  }
}
