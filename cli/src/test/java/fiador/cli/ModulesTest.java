package fiador.cli;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.Test;

/** core <- files, servers, report <- cli; files, servers and report do not know each other. */
class ModulesTest {
  private static final String[] CORE = {
    "fiador.estate..", "fiador.grants..", "fiador.effects..", "fiador.changes.."
  };
  private static final JavaClasses ALL =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          // what tests share comes as an archive of its own
          .withImportOption(location -> !location.contains("-tests.jar"))
          .importPackages("fiador");

  private static void isIndependent(String[] of, String... others) {
    noClasses()
        .that()
        .resideInAnyPackage(of)
        .should()
        .dependOnClassesThat()
        .resideInAnyPackage(others)
        .check(ALL);
  }

  @Test
  void nothingInCoreKnowsAnotherModule() {
    isIndependent(CORE, "fiador.files..", "fiador.servers..", "fiador.report..", "fiador.cli..");
  }

  @Test
  void filesServersAndReportDoNotKnowEachOther() {
    String[] files = {"fiador.files.."};
    String[] servers = {"fiador.servers.."};
    String[] report = {"fiador.report.."};
    isIndependent(files, "fiador.servers..", "fiador.report..", "fiador.cli..");
    isIndependent(servers, "fiador.files..", "fiador.report..", "fiador.cli..");
    isIndependent(report, "fiador.files..", "fiador.servers..", "fiador.cli..");
  }
}
