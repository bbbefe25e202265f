package fiador.findings;

import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted.Place;
import fiador.estate.NodeKind;
import fiador.evidence.Evidence;
import fiador.evidence.Identities;
import fiador.findings.check.Expected;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Waiver;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** A tiny estate that is looked over by one check. */
abstract class FindingsFixture {
  static final Instant NOW = Instant.parse("2026-11-23T12:00:00Z");

  static final Clock CLOCK = Clock.fixed(NOW, ZoneOffset.UTC);

  static final Place PLACE = new Place("fiador.yaml", 1, 1);

  final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui")
          .roles("readers", "writers", "owners")
          .owned(NodeKind.SCHEMA, "d.s", "owners")
          .grant("readers", "usage", "d.s")
          .owned(NodeKind.TABLE, "d.s.a", "owners", "id", "phone")
          .owned(NodeKind.TABLE, "d.s.b", "owners", "id")
          .owned(NodeKind.TABLE, "d.s.c", "owners", "id")
          .member("ines", "readers");

  Expected expected = Expected.NOTHING;

  Evidence evidence;

  Identities identities;

  static String text(Access access, Finding found) {
    StringBuilder text = new StringBuilder();
    if (found.principal() >= 0) {
      text.append(access.principals().name(found.principal())).append(' ');
    } else {
      text.append(access.tree().path(found.node())).append(' ');
    }
    for (Phrase.Part part : found.said().parts()) {
      if (part instanceof Phrase.Words words) {
        text.append(words.text());
      } else if (part instanceof Phrase.Who who) {
        text.append(access.principals().name(who.principal()));
      } else if (part instanceof Phrase.Where where) {
        text.append(where.withKind() ? access.tree().kind(where.node()).text() + " " : "");
        text.append(
            where.columns() == null
                ? access.tree().path(where.node())
                : where.columns().stream()
                    .mapToObj(column -> access.tree().column(where.node(), column))
                    .collect(Collectors.joining(", ")));
      }
    }
    return text.toString();
  }

  Findings.Result look(TinyEstate estate) {
    return Findings.of(estate.build(), CLOCK, expected, evidence, identities);
  }

  List<String> found(String check) {
    return found(check, tiny);
  }

  List<String> found(String check, TinyEstate estate) {
    Access access = estate.build();
    return Findings.of(access, CLOCK, expected, evidence, identities).open().stream()
        .filter(found -> found.asked().id().equals(check))
        .map(found -> text(access, found))
        .toList();
  }

  List<Step> repair(String check) {
    return look(tiny).open().stream()
        .filter(found -> found.asked().id().equals(check))
        .flatMap(found -> found.repair().stream())
        .toList();
  }

  static Expected ours(String name) {
    return Expecting.nothing().ours(Set.of(name)).expected();
  }

  static TinyEstate mariadb() {
    return new TinyEstate(MariadbRules.of(10, 11))
        .users("ines@%", "rui@10.1.%")
        .roles("readers")
        .node(NodeKind.SCHEMA, "sales_a")
        .node(NodeKind.SCHEMA, "sales_b")
        .node(NodeKind.TABLE, "sales_a.t");
  }

  static Waiver waiver(String finding, String on, String until) {
    return new Waiver(finding, on, "agreed", LocalDate.parse(until), PLACE);
  }
}
