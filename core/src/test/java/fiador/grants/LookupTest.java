package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import org.junit.jupiter.api.Test;

class LookupTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines.duarte", "Rui")
          .node(NodeKind.DATABASE, "e")
          .node(NodeKind.SCHEMA, "d.billing")
          .node(NodeKind.SCHEMA, "e.billing")
          .node(NodeKind.TABLE, "d.billing.customers", "iban", "Odd Name")
          .node(NodeKind.TABLE, "e.billing.other")
          .node(NodeKind.ROUTINE, "d.billing.add(integer, text)");
  private final Lookup lookup = new Lookup(tiny.build());

  private int node(String path) {
    Lookup.Found found = lookup.node(path, 0, true);
    assertThat(found.problem()).isNull();
    return found.id();
  }

  @Test
  void theDatabaseMayBeLeftOutWhereOneFits() {
    assertThat(node("billing.customers")).isEqualTo(tiny.at("d.billing.customers"));
    assertThat(node("d.billing.customers")).isEqualTo(tiny.at("d.billing.customers"));
    assertThat(node("\"billing\".\"customers\"")).isEqualTo(tiny.at("d.billing.customers"));
    assertThat(node("BILLING.Customers")).isEqualTo(tiny.at("d.billing.customers"));
  }

  @Test
  void aNameThatFitsTwiceAsksForTheWholePath() {
    assertThat(lookup.node("billing", Privilege.USAGE.bit(), false).problem())
        .contains("schema d.billing", "schema e.billing", "write the whole path");
  }

  @Test
  void aColumnIsFoundBehindItsTable() {
    Lookup.Found found = lookup.node("billing.customers.iban", 0, true);
    assertThat(found.column()).isZero();
    assertThat(lookup.node("billing.customers.\"Odd Name\"", 0, true).column()).isEqualTo(1);
    assertThat(lookup.node("billing.customers.ibam", 0, true).problem())
        .contains("did you mean iban");
  }

  @Test
  void aRoutineIsFoundWithAndWithoutItsArguments() {
    int routine = tiny.at("d.billing.add(integer, text)");
    assertThat(node("billing.add(integer, text)")).isEqualTo(routine);
    assertThat(node("billing.add(INTEGER,text)")).isEqualTo(routine);
    assertThat(node("billing.add")).isEqualTo(routine);
  }

  @Test
  void peopleAreFoundAsTypedOrIgnoringCase() {
    assertThat(lookup.principal("ines.duarte").id()).isEqualTo(1);
    assertThat(lookup.principal("INES.DUARTE").id()).isEqualTo(1);
    assertThat(lookup.principal("rui").id()).isEqualTo(2);
    assertThat(lookup.principal("\"rui\"").ok()).isFalse();
    assertThat(lookup.principal("ines.durte").problem()).contains("did you mean ines.duarte");
  }

  @Test
  void malformedNamesSayWhatIsWrong() {
    assertThat(lookup.node("a..b", 0, true).problem()).contains("empty");
    assertThat(lookup.node("\"a", 0, true).problem()).contains("not closed");
  }
}
