package fiador;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import org.junit.jupiter.api.Test;

/** The rooms of the core, in the order data flows; each may look left only. */
class ArchitectureTest {
  private static final JavaClasses CORE =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPaths("target/classes");

  /** From left to right; a room may use those on its left, and no other. */
  private static final List<String> ROOMS =
      List.of(
          "refusal",
          "columns",
          "estate",
          "grants.rules",
          "grants",
          "houses",
          "selection",
          "effects",
          "predicates",
          "policies",
          "across",
          "changes.wanted",
          "changes.steps",
          "changes.outcome",
          "changes.planning",
          "changes.ordering",
          "changes.adopting",
          "changes",
          "evidence",
          "findings.check",
          "climb",
          "proofs",
          "repairs",
          "findings.accounts",
          "findings.grants",
          "findings.denials",
          "findings.roles",
          "findings.owners",
          "findings.policies",
          "findings",
          "history",
          "reviews");

  @Test
  void eachRoomLooksLeftOnly() {
    for (int room = 0; room < ROOMS.size(); room++) {
      String[] right =
          ROOMS.subList(room + 1, ROOMS.size()).stream()
              .map(name -> "fiador." + name)
              .toArray(String[]::new);
      noClasses()
          .that()
          .resideInAPackage("fiador." + ROOMS.get(room))
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(right)
          .allowEmptyShould(true)
          .check(CORE);
    }
  }

  @Test
  void everyClassIsInARoom() {
    String[] rooms = ROOMS.stream().map(name -> "fiador." + name).toArray(String[]::new);
    classes().should().resideInAnyPackage(rooms).check(CORE);
  }

  @Test
  void noPackagesGoRoundInACircle() {
    slices().matching("fiador.(**)").should().beFreeOfCycles().check(CORE);
  }

  @Test
  void planningAndOrderingAreForChangesAlone() {
    // of planning others see what a plan is, how something is taken away, what has ended, and what
    // is missing
    classes()
        .that()
        .resideInAPackage("fiador.changes.planning")
        .and()
        .doNotHaveSimpleName("Plan")
        .and()
        .doNotHaveSimpleName("Taking")
        .and()
        .doNotHaveSimpleName("Ending")
        .and()
        .doNotHaveSimpleName("PoliciesMissing")
        .should()
        .onlyBeAccessed()
        .byAnyPackage("fiador.changes..")
        .check(CORE);
    classes()
        .that()
        .resideInAPackage("fiador.changes.ordering")
        .and()
        .doNotHaveSimpleName("Transactions")
        .should()
        .onlyBeAccessed()
        .byAnyPackage("fiador.changes..")
        .check(CORE);
  }

  @Test
  void singleChecksAreForTheListOfFindingsAlone() {
    classes()
        .that()
        .resideInAnyPackage(
            "fiador.findings.accounts",
            "fiador.findings.grants",
            "fiador.findings.denials",
            "fiador.findings.roles",
            "fiador.findings.owners",
            "fiador.findings.policies")
        .should()
        .onlyBeAccessed()
        .byAnyPackage("fiador.findings..")
        .check(CORE);
  }

  @Test
  void theCoreHasNoInputNorOutput() {
    noClasses()
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage("java.io", "java.nio.file", "java.sql", "java.net", "picocli..")
        .check(CORE);
  }

  @Test
  void theCoreHasNoClockOfItsOwn() {
    noClasses()
        .should()
        .callMethod(java.time.Instant.class, "now")
        .orShould()
        .callMethod(System.class, "currentTimeMillis")
        .check(CORE);
  }
}
