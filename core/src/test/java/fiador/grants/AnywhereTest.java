package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import org.junit.jupiter.api.Test;

/** Things whose schema somebody left out. */
final class AnywhereTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .node(NodeKind.SCHEMA, "d.billing")
          .node(NodeKind.TABLE, "d.billing.invoices", "id", "Amount")
          .node(NodeKind.TABLE, "d.billing.meters", "id")
          .node(NodeKind.SCHEMA, "d.metering")
          .node(NodeKind.TABLE, "d.metering.meters", "id", "reading")
          .node(NodeKind.ROUTINE, "d.metering.total(integer)")
          .node(NodeKind.SCHEMA, "d.own")
          .node(NodeKind.TABLE, "d.own.things", "id")
          .fact("d.own", NodeFact.SYSTEM);

  private Lookup.Found found(String path, boolean withColumn) {
    return new Lookup(tiny.build()).anywhere(path, 0, withColumn).orElse(null);
  }

  @Test
  void theOnlyOneOfItsNameIsMeant() {
    assertThat(found("invoices", false).id()).isEqualTo(tiny.at("d.billing.invoices"));
    assertThat(found("INVOICES", false).id()).isEqualTo(tiny.at("d.billing.invoices"));
    assertThat(found("Billing.Meters", false).id()).isEqualTo(tiny.at("d.billing.meters"));
    assertThat(found("total", false).id()).isEqualTo(tiny.at("d.metering.total(integer)"));
  }

  @Test
  void itsColumnToo() {
    Lookup.Found amount = found("invoices.amount", true);
    assertThat(amount.id()).isEqualTo(tiny.at("d.billing.invoices"));
    assertThat(amount.column()).isEqualTo(1);
    assertThat(found("meters.reading", true).id()).isEqualTo(tiny.at("d.metering.meters"));
  }

  @Test
  void ofSeveralNoneIsGuessed() {
    assertThat(found("meters", false).problem())
        .contains("may mean any of")
        .contains("d.billing.meters", "d.metering.meters");
    assertThat(found("meters.id", true).ok()).isFalse();
  }

  @Test
  void whatIsNotThereOrTheServersOwnIsNotFound() {
    assertThat(found("things", false)).isNull();
    assertThat(found("invoice", false)).isNull();
    assertThat(found("\"INVOICES\"", false)).isNull();
    Lookup lookup = new Lookup(tiny.build());
    assertThat(lookup.anywhere("invoices", Privilege.EXECUTE.bit(), false)).isEmpty();
    assertThat(lookup.node("invoces", 0, false).problem())
        .contains("did you mean billing.invoices?");
  }
}
