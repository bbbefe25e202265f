package fiador;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** The rooms of the core, in the order data flows; each may look left only. */
class ArchitectureTest {
  private static final JavaClasses CORE =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          .importPackages("fiador");

  @Test
  void eachRoomLooksLeftOnly() {
    layeredArchitecture()
        .consideringOnlyDependenciesInLayers()
        .layer("estate")
        .definedBy("fiador.estate")
        .layer("grants")
        .definedBy("fiador.grants")
        .layer("effects")
        .definedBy("fiador.effects")
        .layer("predicates")
        .definedBy("fiador.predicates")
        .layer("policies")
        .definedBy("fiador.policies")
        .layer("changes")
        .definedBy("fiador.changes")
        .layer("reviews")
        .definedBy("fiador.reviews")
        .layer("history")
        .definedBy("fiador.history")
        .layer("campaigns")
        .definedBy("fiador.campaigns")
        .whereLayer("campaigns")
        .mayNotBeAccessedByAnyLayer()
        .whereLayer("history")
        .mayOnlyBeAccessedByLayers("campaigns")
        .whereLayer("reviews")
        .mayOnlyBeAccessedByLayers("history", "campaigns")
        .whereLayer("changes")
        .mayOnlyBeAccessedByLayers("reviews", "history", "campaigns")
        .whereLayer("policies")
        .mayOnlyBeAccessedByLayers("changes", "reviews", "history", "campaigns")
        .whereLayer("predicates")
        .mayOnlyBeAccessedByLayers("policies", "changes", "reviews", "history", "campaigns")
        .whereLayer("effects")
        .mayOnlyBeAccessedByLayers(
            "predicates", "policies", "changes", "reviews", "history", "campaigns")
        .whereLayer("grants")
        .mayOnlyBeAccessedByLayers(
            "effects", "predicates", "policies", "changes", "reviews", "history", "campaigns")
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
