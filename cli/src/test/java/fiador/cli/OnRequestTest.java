package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Users who have to switch a role on first are tried as they would do it. */
class OnRequestTest {
  @TempDir Path folder;

  private static final String CHARTER =
      """
      roles:
        e_read: {purpose: access, may: [usage on schema s, select on table s.t]}
      users:
        e_ines: {kind: person, roles: [e_read on request]}
        e_rui: {kind: person}
      governs: {schemas: [s], users: [e_*], roles: [e_*]}
      row_policies:
        own: {on: s.t, rows: a > 1}
      proofs:
        - e_ines can select s.t
        - e_rui cannot select s.t
      """;

  @Test
  void nothingWasSurveyedYet() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(folder, "create schema s", "create table s.t (a int)");
    Program prove = estate.charter(CHARTER).fiador("prove");
    assertThat(prove.code).as(prove.out + prove.err).isIn(0, 1, 2);
    assertThat(prove.out).contains("proofs");
  }

  @Test
  void aPreviewAndAProofSwitchAsThePathSays() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.t (a int)",
            "insert into s.t values (1), (2), (3)");
    estate.charter(CHARTER).settled();
    Program preview =
        Program.run("preview", "e_ines", "s.t", "--live", "--charter", folder.toString());
    assertThat(preview.code).as(preview.out + preview.err).isZero();
    assertThat(preview.out).contains("SET ROLE e_read");
    Program prove = estate.fiador("prove", "--live");
    assertThat(prove.code).as(prove.out + prove.err).isZero();
    assertThat(prove.out).contains("allowed it", "refused it", "SET ROLE e_read");
  }
}
