package fiador.cli.draw;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.locks.LockSupport;
import java.util.logging.Level;
import org.junit.jupiter.api.Assumptions;
import org.openqa.selenium.By;
import org.openqa.selenium.Dimension;
import org.openqa.selenium.JavascriptExecutor;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;
import org.openqa.selenium.logging.LogType;
import org.openqa.selenium.logging.LoggingPreferences;

/** A real browser, without a window. */
final class Browser implements AutoCloseable {
  private static final Path PROGRAM = Path.of("/usr/bin/chromium");
  private static final Path DRIVER = Path.of("/usr/bin/chromedriver");
  private static final Duration PATIENCE = Duration.ofSeconds(20);

  private final ChromeDriver driver;

  private Browser(ChromeDriver driver) {
    this.driver = driver;
  }

  /**
   * Starts it; where there is none, the tests that need it are left out, unless that is forbidden.
   */
  static Browser start(String... more) {
    boolean there = Files.isExecutable(PROGRAM) && Files.isExecutable(DRIVER);
    if (!"required".equals(System.getenv("FIADOR_BROWSER"))) {
      Assumptions.assumeTrue(
          there,
          "no browser here, so the page was not tried: install chromium and chromium-driver");
    }
    ChromeOptions options = new ChromeOptions();
    options.setBinary(PROGRAM.toFile());
    options.addArguments(
        "--headless=new", "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage");
    options.addArguments("--window-size=1280,800");
    options.addArguments(more);
    LoggingPreferences logs = new LoggingPreferences();
    logs.enable(LogType.BROWSER, Level.ALL);
    options.setCapability("goog:loggingPrefs", logs);
    ChromeDriverService service =
        new ChromeDriverService.Builder().usingDriverExecutable(DRIVER.toFile()).build();
    ChromeDriver driver = new ChromeDriver(service, options);
    driver.manage().timeouts().scriptTimeout(PATIENCE);
    return new Browser(driver);
  }

  /** Opens a page at a view, and waits until it is there. */
  void open(Path page, String view) {
    driver.get("about:blank");
    driver.get(page.toUri() + view);
    wait("return document.documentElement.dataset.ready === 'yes'");
  }

  void wait(String condition) {
    Instant end = Instant.now().plus(PATIENCE);
    while (!Boolean.TRUE.equals(script(condition))) {
      assertThat(Instant.now()).as(condition).isBefore(end);
      LockSupport.parkNanos(20_000_000);
    }
  }

  Object script(String script, Object... arguments) {
    return ((JavascriptExecutor) driver).executeScript(script, arguments);
  }

  String text(String selector) {
    return driver.findElement(By.cssSelector(selector)).getText();
  }

  List<WebElement> all(String selector) {
    return driver.findElements(By.cssSelector(selector));
  }

  void type(CharSequence... keys) {
    driver.switchTo().activeElement().sendKeys(keys);
  }

  void click(String selector) {
    driver.findElement(By.cssSelector(selector)).click();
  }

  void clickLink(String text) {
    driver.findElement(By.linkText(text)).click();
  }

  void back() {
    driver.navigate().back();
  }

  void size(int width, int height) {
    driver.manage().window().setSize(new Dimension(width, height));
  }

  /** Where it is, behind the name of the page. */
  String place() {
    return Objects.toString(script("return decodeURIComponent(location.hash)"));
  }

  /** Says that nothing went wrong and nothing was asked of anybody. */
  void wasQuiet() {
    assertThat(driver.manage().logs().get(LogType.BROWSER).getAll()).isEmpty();
    assertThat(script("return performance.getEntriesByType('resource').length")).isEqualTo(0L);
  }

  /** What keeps somebody from using the page that is shown, as far as a program can tell. */
  List<String> barriers() throws IOException {
    try (InputStream axe =
        Objects.requireNonNull(Browser.class.getResourceAsStream("/axe.min.js"))) {
      script(new String(axe.readAllBytes(), StandardCharsets.UTF_8));
    }
    Object found =
        ((JavascriptExecutor) driver)
            .executeAsyncScript(
                """
                const done = arguments[arguments.length - 1];
                axe.run(document, { resultTypes: ["violations"] }).then((result) => done(
                  result.violations.filter((each) => ["serious", "critical"].includes(each.impact))
                    .map((each) => each.id + ": " + each.nodes[0].html)));
                """);
    return ((List<?>) found).stream().map(Object::toString).toList();
  }

  @Override
  public void close() {
    driver.quit();
  }
}
