package fiador.cli.draw;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.Program;
import fiador.estate.NodeKind;
import fiador.files.survey.SurveyWriter;
import fiador.grants.TinyEstate;
import fiador.report.shown.Visible;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.Keys;

/** The page as people use it. */
final class PageInBrowserTest {
  private static final String WATERWORKS =
      Path.of("../examples/aguarela/trouble/waterworks.survey.jsonl.gz")
          .toAbsolutePath()
          .toString();
  private static final List<String> VIEWS =
      List.of(
          "",
          "#people",
          "#roles",
          "#things",
          "#matrix",
          "#graph",
          "#findings",
          "#person=ines.duarte",
          "#person=ines.duarte&with=joao.serra",
          "#role=leak_analyst",
          "#thing=billing.customers",
          "#thing=billing.customers&column=iban",
          "#person=nobody");

  @TempDir static Path folder;

  private static Browser browser;
  private static Path page;

  @BeforeAll
  static void make() {
    browser = Browser.start();
    page = folder.resolve("estate.html");
    Program made = Program.run("page", "--from", WATERWORKS, "--to", page.toString());
    assertThat(made.code).as(made.err).isZero();
  }

  @AfterAll
  static void end() {
    if (browser != null) {
      browser.close();
    }
  }

  private static long rows(String... words) {
    return Program.run(
            Stream.concat(Stream.of(words), Stream.of("--from", WATERWORKS, "--format", "jsonl"))
                .toArray(String[]::new))
        .out
        .lines()
        .count();
  }

  @Test
  void somebodyIsFoundByKeyboardAndTheWayBackWorks() {
    browser.open(page, "");
    browser.type("/");
    browser.type("ines.d");
    browser.wait("return document.querySelectorAll('#found [role=option]').length > 0");
    browser.type(Keys.ARROW_DOWN, Keys.ARROW_UP, Keys.ENTER);
    browser.wait("return document.querySelector('h1').textContent === 'ines.duarte'");
    assertThat(browser.place()).isEqualTo("#person=ines.duarte");
    browser.clickLink("leak_analyst");
    browser.wait("return document.querySelector('h1').textContent === 'leak_analyst'");
    assertThat(browser.script("return document.activeElement.tagName")).isEqualTo("H1");
    browser.back();
    browser.wait("return document.querySelector('h1').textContent === 'ines.duarte'");
    browser.wasQuiet();
  }

  @Test
  void eachNumberIsThatOfTheCommand() {
    for (String user : List.of("ines.duarte", "alda.monte", "backup_bot", "contractor_trial")) {
      browser.open(page, "#person=" + user);
      assertThat(browser.text(".title .answer"))
          .as(user)
          .startsWith("Holds " + rows("holdings", user) + " privilege");
    }
    for (String thing : List.of("billing.customers", "metering.readings", "network.incidents")) {
      browser.open(page, "#thing=" + thing);
      TreeSet<String> users = new TreeSet<>();
      Program.run("holders", thing, "--from", WATERWORKS, "--format", "jsonl")
          .out
          .lines()
          .forEach(row -> users.add(row.substring(0, row.indexOf(','))));
      assertThat(browser.text(".title .answer")).as(thing).startsWith(users.size() + " user");
    }
    browser.open(page, "#findings");
    assertThat(browser.text("h1")).isEqualTo(rows("findings") + " findings");
  }

  @Test
  void aColumnIsFoundAndShowsWhoGetsIt() {
    browser.open(page, "");
    browser.type("/");
    browser.type("customers.iban", Keys.ENTER);
    browser.wait("return document.querySelector('h1').textContent === 'billing.customers.iban'");
    TreeSet<String> users = new TreeSet<>();
    Program.run("holders", "billing.customers.iban", "--from", WATERWORKS, "--format", "jsonl")
        .out
        .lines()
        .forEach(row -> users.add(row.substring(0, row.indexOf(','))));
    assertThat(browser.text(".title .answer")).startsWith(users.size() + " user");
    assertThat(browser.text("main")).doesNotContain("ines.duarte");
    browser.wasQuiet();
  }

  @Test
  void aClickLightsTheWayUpAndAFilterNarrowsIt() {
    browser.open(page, "#graph");
    String dimmed = "return document.querySelectorAll('.box.dim').length";
    assertThat(browser.script(dimmed)).isEqualTo(0L);
    browser.script("document.querySelector('[aria-label^=lab_steward]').focus()");
    browser.type(Keys.ENTER);
    long boxes = browser.all(".box").size();
    long lit = boxes - (long) browser.script(dimmed);
    assertThat(lit).isBetween(3L, boxes - 5);
    assertThat(browser.text("[role=status]")).startsWith("lab_steward: ");
    browser.click("#narrow");
    browser.type("ines.duarte");
    assertThat(
            browser.script(
                "return document.querySelectorAll('.box.dim').length > 0 && !document.querySelector('[aria-label^=leak_analyst]').classList.contains('dim')"))
        .isEqualTo(true);
    browser.click(".tools button");
    assertThat(browser.script(dimmed)).isEqualTo(0L);
    browser.click("#narrow");
    browser.type("change");
    assertThat(
            browser.script(
                "const dim = (name) => document.querySelector('[aria-label^=' + name + ']').classList.contains('dim');"
                    + " return !dim('billing_write') && dim('billing_read')"))
        .isEqualTo(true);
    browser.click(".tools button");
    browser.wasQuiet();
  }

  @Test
  void twoPeopleAreComparedByALink() {
    browser.open(page, "#person=ines.duarte&with=joao.serra");
    assertThat(browser.text("main")).contains("Only ines.duarte", "Only joao.serra", "Both");
    assertThat(browser.script("return document.getElementById('compare').value"))
        .isEqualTo("joao.serra");
    browser.click("#compare");
    browser.type(Keys.chord(Keys.CONTROL, "a"), "vera.lobo", Keys.ENTER);
    browser.wait("return document.querySelector('main').textContent.includes('Only vera.lobo')");
    assertThat(browser.place()).isEqualTo("#person=ines.duarte&with=vera.lobo");
    browser.wasQuiet();
  }

  @Test
  void nothingKeepsAnybodyFromUsingIt() throws IOException {
    for (String view : VIEWS) {
      browser.open(page, view);
      assertThat(browser.barriers()).as(view).isEmpty();
    }
    try (Browser dark =
        Browser.start("--force-dark-mode", "--blink-settings=preferredColorScheme=0")) {
      for (String view : VIEWS) {
        dark.open(page, view);
        assertThat(dark.barriers()).as("dark " + view).isEmpty();
      }
    }
  }

  @Test
  void whatChangedIsToldAndDrawn() throws IOException {
    Path tour = folder.resolve("tour");
    assertThat(Program.run("tour", tour.toString()).code).isZero();
    Path told = tour.resolve("estate.html");
    browser.open(told, "#history");
    assertThat(browser.all(".chart .series").size()).isGreaterThan(4);
    assertThat(browser.text("main")).contains("settle by ", "Users with access, by schema");
    assertThat(browser.barriers()).isEmpty();
    browser.open(told, "#gap");
    assertThat(browser.text(".title .answer")).startsWith("Nothing: the server is as the charter");
    assertThat(browser.barriers()).isEmpty();
    browser.wasQuiet();
  }

  @Test
  void itFitsAPhoneAndTwiceTheSize() {
    try {
      browser.size(640, 400);
      for (String view : VIEWS) {
        browser.open(page, view);
        assertThat(browser.script("return document.documentElement.scrollWidth <= innerWidth"))
            .as(view)
            .isEqualTo(true);
      }
    } finally {
      browser.size(1280, 800);
    }
  }

  @Test
  void hostileNamesAreShownAndDoNothing() throws IOException {
    List<String> names =
        List.of(
            "<img src=x onerror=\"window.hacked=1\">",
            "</script><script>window.hacked=1</script>",
            "a\"b'c&d=e#f",
            "evil\u202Egnp\u0007",
            "x".repeat(200));
    TinyEstate tiny =
        TinyEstate.postgresql().node(NodeKind.SCHEMA, "d.s").node(NodeKind.TABLE, "d.s.t");
    for (String name : names) {
      tiny.users(name).grant(name, "select", "d.s.t");
    }
    Path survey = folder.resolve("hostile.jsonl");
    SurveyWriter.write(tiny.build(), survey);
    Path hostile = folder.resolve("hostile.html");
    Program made = Program.run("page", "--from", survey.toString(), "--to", hostile.toString());
    assertThat(made.code).as(made.err).isZero();
    for (String name : names) {
      browser.open(hostile, "#people");
      String seen = Visible.of(name);
      browser.script(
          "[...document.querySelectorAll('main a')].find((each) => each.textContent === arguments[0]).click()",
          seen);
      browser.wait("return document.title.length > 0 && location.hash.startsWith('#person')");
      assertThat(browser.script("return document.querySelector('h1').textContent")).isEqualTo(seen);
      assertThat(browser.script("return document.documentElement.scrollWidth <= innerWidth"))
          .isEqualTo(true);
      browser.open(hostile, "#graph");
    }
    assertThat(browser.script("return window.hacked")).isNull();
    browser.wasQuiet();
  }
}
