package fiador.sweep;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.grants.Abroad.Carrier;
import fiador.grants.TinyEstate;
import fiador.work.sweeping.LabelRule;
import fiador.work.sweeping.Outcome;
import fiador.work.sweeping.Sweeps.Question;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Servers whose tables are really on others. */
class ArrivalsTest {
  @TempDir Path folder;
  private Swept swept;

  @BeforeEach
  void servers() throws Exception {
    swept = new Swept(folder);
    swept.survey("archive", archive("reader").build());
    swept.survey("north/dam", dam("5433").build());
    swept.survey("branch", branch().build());
    swept.survey(
        "alone",
        TinyEstate.postgresql()
            .reached("alone", "alone.box:5432")
            .users("ines")
            .node(NodeKind.SCHEMA, "d.s")
            .build());
    swept.labels = List.of(new LabelRule("secret", "archive", "*.store.bills.iban"));
    swept.people =
        new Identities(
            List.of(
                new Identity(
                    "p0", "Inês Duarte", true, null, null, List.of("dam:ines", "branch:id"))));
  }

  /** Where the rows are. */
  private static TinyEstate archive(String allowed) {
    TinyEstate archive =
        TinyEstate.postgresql()
            .reached("archive", "db.box:5433")
            .users("reader", "guest")
            .node(NodeKind.SCHEMA, "d.store")
            .grant("PUBLIC", "usage", "d.store")
            .node(NodeKind.TABLE, "d.store.bills", "number", "iban")
            .grant(allowed, "select", "d.store.bills");
    archive.filter("d.store.bills", archive.rule("few", true, "reader", "false", "false"));
    return archive;
  }

  /** One that has a foreign table for them. */
  private static TinyEstate dam(String port) {
    return TinyEstate.postgresql()
        .reached("dam", "db.box:5432")
        .users("ines", "nuno", "link")
        .node(NodeKind.SCHEMA, "d.bills")
        .grant("PUBLIC", "usage", "d.bills")
        .node(NodeKind.TABLE, "d.bills.old", "number", "iban")
        .grant("ines", "select", "d.bills.old")
        .grant("nuno", "select", "d.bills.old")
        .grant("link", "select", "d.bills.old")
        .away("far", Carrier.POSTGRESQL, "db.box", port)
        .mapping("ines", "far", "reader", true)
        .mapping("link", "far", "reader", true)
        .mapping("PUBLIC", "far", "guest", true)
        .foreign("d.bills.old", "far", "store.bills", Map.of());
  }

  /** One that leads to the one that leads there. */
  private static TinyEstate branch() {
    return TinyEstate.postgresql()
        .reached("branch", "branch.box:5432")
        .users("id")
        .node(NodeKind.SCHEMA, "d.b")
        .grant("id", "usage", "d.b")
        .node(NodeKind.TABLE, "d.b.old", "number", "iban")
        .grant("id", "select", "d.b.old")
        .away("mid", Carrier.POSTGRESQL, "db.box", "5432")
        .mapping("id", "mid", "link", true)
        .foreign("d.b.old", "mid", "bills.old", Map.of());
  }

  private List<String> arrivals() throws Exception {
    return swept.lines(
        """
        select server, object, from_server, account, login, person, certain, state, across, rows_seen
        from arrivals""");
  }

  @Test
  void whoComesOverOthersIsKept() throws Exception {
    Outcome outcome = swept.sweep();
    assertThat(outcome.failed()).isEmpty();
    assertThat(arrivals())
        .containsExactlyInAnyOrder(
            "{account=ines, across=[north/dam:d.bills.old], certain=true, from_server=north/dam,"
                + " login=reader, object=d.store.bills, person=p0, rows_seen=false, server=archive, state=live}",
            "{account=link, across=[north/dam:d.bills.old], certain=true, from_server=north/dam,"
                + " login=reader, object=d.store.bills, rows_seen=false, server=archive, state=live}",
            "{account=id, across=[branch:d.b.old, north/dam:d.bills.old], certain=true,"
                + " from_server=branch, login=reader, object=d.store.bills, person=p0,"
                + " rows_seen=false, server=archive, state=live}",
            "{account=id, across=[branch:d.b.old], certain=true, from_server=branch, login=link,"
                + " object=d.bills.old, person=p0, server=north/dam, state=live}");
    List<Map<String, Object>> who = swept.ask(new Question.Who("secret", "", "select", "", false));
    assertThat(who)
        .extracting(row -> row.get("account") + " of " + row.get("from_server"))
        .containsExactlyInAnyOrder(
            "reader of null", "ines of north/dam", "link of north/dam", "id of branch");
    assertThat(swept.ask(new Question.Person("p0")))
        .extracting(row -> row.get("object") + " from " + row.get("from_server"))
        .contains("d.store.bills from branch", "d.store.bills from north/dam")
        .contains("d.b.old from null");
  }

  @Test
  void whoLeadsEverywherePutsNothingElseIntoMemory() throws Exception {
    swept.sweep();
    List<String> all = arrivals();
    swept.together = 0;
    Outcome outcome = swept.sweep();
    assertThat(outcome.failed()).isEmpty();
    // what is led to on dam is on archive itself, which is left out there
    assertThat(arrivals())
        .isEqualTo(
            all.stream()
                .map(
                    line ->
                        line.contains(", server=north/dam")
                            ? line.replace("certain=true", "certain=false")
                            : line)
                .toList());
    // one that reads a table of archive together with one of a third server, which is left out now
    TinyEstate both = dam("5433").away("third", Carrier.POSTGRESQL, "third.box", "5432");
    both.node(NodeKind.TABLE, "d.bills.rate", "number").mapping("PUBLIC", "third", "reader", true);
    both.foreign("d.bills.rate", "third", "store.rate", Map.of());
    both.grant("link", "select", "d.bills.rate");
    both.owned(NodeKind.VIEW, "d.bills.shown", "link", "number");
    both.reads("d.bills.shown", "d.bills.old", "number");
    both.reads("d.bills.shown", "d.bills.rate", "number");
    both.shows("d.bills.shown", "number", "d.bills.old", "number", true);
    swept.survey("north/dam", both.grant("nuno", "select", "d.bills.shown").build());
    swept.survey("third", third().build());
    swept.sweep();
    assertThat(arrivals())
        .anyMatch(line -> line.contains("account=nuno") && line.contains("certain=false"));
    swept.together = Long.MAX_VALUE;
    swept.sweep();
    assertThat(arrivals())
        .anyMatch(line -> line.contains("account=nuno") && line.contains("certain=true"));
  }

  private static TinyEstate third() {
    return TinyEstate.postgresql()
        .reached("third", "third.box:5432")
        .users("reader")
        .node(NodeKind.SCHEMA, "d.store")
        .grant("PUBLIC", "usage", "d.store")
        .node(NodeKind.TABLE, "d.store.rate", "number")
        .grant("reader", "select", "d.store.rate");
  }

  @Test
  void whatChangesOnOneServerIsKnownOnAllThatItLeadsTo() throws Exception {
    swept.sweep();
    assertThat(swept.sweep().worked()).isZero();
    assertThat(arrivals()).hasSize(4);
    // the right moves to the login that is everybody's
    swept.survey("archive", archive("guest").build());
    assertThat(swept.sweep().worked()).isOne();
    assertThat(arrivals())
        .hasSize(1)
        .allMatch(line -> line.contains("account=nuno") && line.contains("login=guest"));
    // the foreign server is pointed elsewhere
    swept.survey("north/dam", dam("9").build());
    assertThat(swept.sweep().worked()).isOne();
    assertThat(arrivals())
        .hasSize(1)
        .allMatch(line -> line.contains("server=north/dam") && line.contains("certain=false"));
    // and what led there is gone
    Files.delete(swept.surveys.resolve("branch.survey.jsonl"));
    swept.sweep();
    assertThat(Files.exists(swept.into.resolve("arrivals/server=north%2Fdam"))).isFalse();
    assertThat(swept.sweep().worked()).isZero();
  }

  @Test
  void aServerThatLeadsToItselfIsFollowedToo() throws Exception {
    swept = new Swept(folder.resolve("other"));
    TinyEstate back = dam("5432").foreign("d.bills.old", "far", "bills.real", Map.of());
    back.users("reader").node(NodeKind.TABLE, "d.bills.real", "number", "iban");
    swept.survey("back", back.grant("reader", "select", "d.bills.real").build());
    swept.sweep();
    assertThat(arrivals())
        .anyMatch(line -> line.contains("account=ines") && line.contains("from_server=back"));
  }
}
