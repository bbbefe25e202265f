package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Who is called otherwise sees the same rows as before, on the way back too. */
class RenamedTest {
  private static final String CHARTER =
      """
      governs: {schemas: [s], roles: ["*"], users: ["e_*"]}
      roles:
        reader: {may: [usage on schema s, select on s.t]}
        %1$s: {includes: [reader]%2$s}
      users:
        %3$s: {roles: [reader], attributes: {areas: [north]}%4$s}
        e_rui: {roles: [%1$s]}
      row_policies:
        own_areas:
          on: [s.t]
          uses: {area: area}
          applies_to: {none_of: [role %1$s]}
          rows: area in user.areas
      """;
  private static final String BEFORE = CHARTER.formatted("boss", "", "e_ines", "");
  private static final String AFTER =
      CHARTER.formatted("chief", ", was: boss", "e_ines_d", ", was: e_ines");

  @TempDir Path folder;

  private static String rows(RealEstate estate, String user) throws Exception {
    return estate.askAs(user, "select count(*)::text from s.t").get(0);
  }

  @Test
  void policiesFollowTheNewNames() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int, area text)",
            "insert into s.t values (1, 'north'), (2, 'south')");
    estate.charter(BEFORE);
    assertThat(estate.settle().code).isZero();
    assertThat(rows(estate, "e_ines")).isEqualTo("1");
    assertThat(rows(estate, "e_rui")).isEqualTo("2");
    estate.charter(AFTER);
    Program gap = estate.fiador("gap");
    assertThat(gap.out)
        .contains("ALTER ROLE \"boss\" RENAME TO \"chief\"")
        .doesNotContain("loses", "gains", "CREATE ROLE");
    Program settled = estate.settle();
    assertThat(settled.code).as(settled.out + settled.err).isZero();
    assertThat(settled.out).contains("2 users and roles renamed", "surveyed again: no gap");
    assertThat(rows(estate, "e_ines_d")).isEqualTo("1");
    assertThat(rows(estate, "e_rui")).isEqualTo("2");
    Program undone = estate.fiador("settle", "--undo");
    assertThat(undone.code).as(undone.out + undone.err).isZero();
    assertThat(rows(estate, "e_ines")).isEqualTo("1");
    assertThat(rows(estate, "e_rui")).isEqualTo("2");
    estate.charter(BEFORE);
    assertThat(estate.fiador("gap").code).isZero();
  }
}
