package fiador.cli;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.base.DescribedPredicate;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * core <- sqltext <- files, servers; core <- report; files, servers <- work; then cli. The stand-in
 * stands by itself.
 */
class ModulesTest {
  private static final List<String> MODULES =
      List.of(
          "fiador.files",
          "fiador.servers",
          "fiador.report",
          "fiador.sqltext",
          "fiador.standin",
          "fiador.work",
          "fiador.cli");
  private static final JavaClasses ALL =
      new ClassFileImporter()
          .withImportOption(new ImportOption.DoNotIncludeTests())
          // what tests share comes as an archive of its own
          .withImportOption(location -> !location.contains("-tests.jar"))
          .importPackages("fiador");

  private static DescribedPredicate<JavaClass> in(List<String> packages) {
    return DescribedPredicate.describe(
        "in " + packages,
        type ->
            packages.stream()
                .anyMatch(
                    name ->
                        type.getPackageName().equals(name)
                            || type.getPackageName().startsWith(name + ".")));
  }

  private static DescribedPredicate<JavaClass> inCore() {
    return DescribedPredicate.describe(
        "in core",
        type ->
            type.getPackageName().startsWith("fiador.")
                && !in(MODULES).or(in(List.of("fiador.bench"))).test(type));
  }

  @Test
  void nothingInCoreKnowsAnotherModule() {
    noClasses().that(inCore()).should().dependOnClassesThat(in(MODULES)).check(ALL);
  }

  @Test
  void filesServersReportAndSqlTextDoNotKnowEachOther() {
    for (String module : MODULES.subList(0, 5)) {
      boolean readsSql = module.equals("fiador.files") || module.equals("fiador.servers");
      List<String> others =
          MODULES.stream()
              .filter(other -> !other.equals(module))
              .filter(other -> !(readsSql && other.equals("fiador.sqltext")))
              .toList();
      noClasses().that(in(List.of(module))).should().dependOnClassesThat(in(others)).check(ALL);
    }
  }

  /** What is to be compared with our answers must not be worked out by them. */
  @Test
  void theStandInKnowsNothingOfFiador() {
    noClasses()
        .that(in(List.of("fiador.standin")))
        .should()
        .dependOnClassesThat(
            DescribedPredicate.describe(
                "of Fiador, but not its own",
                type ->
                    type.getPackageName().startsWith("fiador.")
                        && !in(List.of("fiador.standin")).test(type)))
        .check(ALL);
  }

  @Test
  void workShowsNothingToAnybody() {
    noClasses()
        .that(in(List.of("fiador.work")))
        .should()
        .dependOnClassesThat(in(List.of("fiador.report", "fiador.cli")))
        .orShould()
        .dependOnClassesThat()
        .haveFullyQualifiedName("java.io.PrintStream")
        .check(ALL);
  }

  /** Of each module's rooms, from left to right, none looks right. */
  @Test
  void roomsLookLeftOnly() {
    looksLeft(
        "fiador.report",
        List.of("shown", "rows", "text", "lists", "exchange", "pictures", "sheets", "page"),
        List.of("pages"));
    looksLeft(
        "fiador.standin",
        List.of("driver", "house", "estate", "deeds", "queries", "keeping", "serving"),
        List.of());
    looksLeft("fiador.sqltext", List.of("uses", "lineage", "needs", "rules", "refused"), List.of());
    looksLeft(
        "fiador.servers",
        List.of("jdbc", "policies", "kind", "live", "hsqldb", "mariadb", "postgresql", "sheet"),
        List.of());
    looksLeft(
        "fiador.work",
        List.of("charters", "secrets", "settling", "proving", "reviewing", "sweeping"),
        List.of());
    looksLeft(
        "fiador.cli",
        List.of("shell", "ask", "tidy", "draw", "change", "review", "sweep"),
        List.of());
  }

  private static void looksLeft(String module, List<String> rooms, List<String> generated) {
    for (int room = 0; room < rooms.size(); room++) {
      List<String> right =
          rooms.subList(room + 1, rooms.size()).stream().map(name -> module + "." + name).toList();
      if (!right.isEmpty()) {
        noClasses()
            .that(in(List.of(module + "." + rooms.get(room))))
            .should()
            .dependOnClassesThat(in(right))
            .check(ALL);
      }
    }
    List<String> known =
        java.util.stream.Stream.concat(rooms.stream(), generated.stream())
            .map(name -> module + "." + name)
            .toList();
    noClasses()
        .that(in(List.of(module)))
        .and(DescribedPredicate.not(in(known)))
        .should(
            com.tngtech.archunit.lang.conditions.ArchConditions.not(
                com.tngtech.archunit.lang.conditions.ArchConditions.resideInAPackage(module)))
        .allowEmptyShould(true)
        .check(ALL);
  }

  @Test
  void noPackagesGoRoundInACircle() {
    // a page's template and what fills it know each other
    slices()
        .matching("fiador.(**)")
        .that(
            DescribedPredicate.describe(
                "not generated", slice -> !slice.getDescription().contains("report.pages")))
        .should()
        .beFreeOfCycles()
        .check(ALL);
  }
}
