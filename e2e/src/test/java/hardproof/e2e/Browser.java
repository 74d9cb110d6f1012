package hardproof.e2e;

import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.logging.Level;
import java.util.logging.Logger;
import org.openqa.selenium.By;
import org.openqa.selenium.Dimension;
import org.openqa.selenium.JavascriptExecutor;
import org.openqa.selenium.Keys;
import org.openqa.selenium.OutputType;
import org.openqa.selenium.StaleElementReferenceException;
import org.openqa.selenium.TakesScreenshot;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;
import org.openqa.selenium.logging.LogEntry;
import org.openqa.selenium.logging.LogType;
import org.openqa.selenium.support.ui.WebDriverWait;

/** Headless Chromium, driven as a person would: by what is written on the page, and by keys. */
final class Browser implements AutoCloseable {
  private static final Logger SELENIUM = Logger.getLogger("org.openqa.selenium");
  private static final Duration PATIENCE = Duration.ofSeconds(90);

  private final ChromeDriver driver;
  private final String address;

  static {
    SELENIUM.setLevel(Level.SEVERE);
  }

  /**
   * @param downloads where downloaded files go
   */
  Browser(String address, Path downloads) {
    this.address = address;
    ChromeOptions options = new ChromeOptions();
    options.setBinary("/usr/bin/chromium");
    options.addArguments(
        "--headless",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--disable-dev-shm-usage",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--hide-scrollbars",
        "--force-device-scale-factor=1",
        "--lang=en-GB");
    options.setExperimentalOption(
        "prefs",
        Map.of(
            "download.default_directory",
            downloads.toString(),
            "download.prompt_for_download",
            false));
    options.setCapability("goog:loggingPrefs", Map.of("browser", "ALL"));
    driver = new ChromeDriver(
        new ChromeDriverService.Builder()
            .usingDriverExecutable(new File("/usr/bin/chromedriver"))
            .usingAnyFreePort()
            .build(),
        options);
    size(1280, 800);
  }

  /** The size of the page itself, whatever the frame takes. */
  void size(int width, int height) {
    driver.manage().window().setSize(new Dimension(width, height));
    List<?> inner = (List<?>) script("return [innerWidth, innerHeight]");
    driver
        .manage()
        .window()
        .setSize(new Dimension(
            2 * width - ((Number) inner.get(0)).intValue(),
            2 * height - ((Number) inner.get(1)).intValue()));
  }

  Object script(String code, Object... arguments) {
    return ((JavascriptExecutor) driver).executeScript(code, arguments);
  }

  Object asyncScript(String code) {
    driver.manage().timeouts().scriptTimeout(PATIENCE);
    return driver.executeAsyncScript(code);
  }

  /** What axe-core finds serious or critical by WCAG 2.2 AA on the view that is shown. */
  List<?> barriers() throws IOException {
    script(Files.readString(Path.of(System.getProperty("axe.script"))));
    return (List<?>) asyncScript("""
        const done = arguments[arguments.length - 1];
        axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']})
          .then(r => done(r.violations.filter(v => ['serious', 'critical'].includes(v.impact))
            .map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.html.slice(0, 160) + ' ' + n.failureSummary).join(' | '))));
        """);
  }

  void open(String path) {
    driver.get(address + path);
  }

  String url() {
    return driver.getCurrentUrl();
  }

  /** Waits until {@code condition} gives something that is neither null nor false. */
  <T> T until(String what, Function<ChromeDriver, T> condition) {
    return until(what, PATIENCE, condition);
  }

  <T> T until(String what, Duration patience, Function<ChromeDriver, T> condition) {
    return new WebDriverWait(driver, patience)
        .ignoring(StaleElementReferenceException.class)
        .withMessage(() -> what + "; the page says:\n" + text())
        .until(d -> condition.apply(driver));
  }

  String text() {
    return driver.findElement(By.tagName("body")).getText();
  }

  void sees(String text) {
    until("sees \"" + text + "\"", d -> text().contains(text));
  }

  void noLongerSees(String text) {
    until("no longer sees \"" + text + "\"", d -> !text().contains(text));
  }

  /** The first visible match. */
  WebElement find(String css) {
    return until(
        "finds " + css,
        d -> d.findElements(By.cssSelector(css)).stream()
            .filter(WebElement::isDisplayed)
            .findFirst()
            .orElse(null));
  }

  List<WebElement> all(String css) {
    return driver.findElements(By.cssSelector(css));
  }

  /** Clicks the first visible button, link or tab whose text is {@code words}. */
  void click(String words) {
    until("clicks \"" + words + "\"", d -> {
      for (WebElement e : d.findElements(
          By.cssSelector("button, a, [role=tab], [role=option], .v-menu .v-list-item-title"))) {
        if (e.isDisplayed() && e.isEnabled() && e.getText().strip().equals(words)) {
          e.click();
          return true;
        }
      }
      return null;
    });
  }

  /** Chooses a member in a case file, where its verdict stands before its name for those who hear it. */
  void chooseMember(String name) {
    until("chooses " + name, d -> {
      for (WebElement e : d.findElements(By.cssSelector(".members [role=tab]"))) {
        if (e.isDisplayed() && e.getText().strip().endsWith("\n" + name)) {
          e.click();
          return true;
        }
      }
      return null;
    });
  }

  /** Types into the field with that label, in place of what stood there. */
  void type(String label, String text) {
    until(
        "types into \"" + label + "\"",
        d -> d.findElements(By.xpath("//label[normalize-space()=\"" + label + "\"]")).stream()
            .map(l -> l.getDomAttribute("for"))
            .filter(id -> id != null && !d.findElements(By.id(id)).isEmpty())
            .findFirst()
            .map(id -> {
              // A field that is empty may hide its input behind its label until it has the focus.
              script("document.getElementById(arguments[0]).focus()", id);
              press(Keys.chord(Keys.CONTROL, "a"));
              press(text);
              return true;
            })
            .orElse(null));
  }

  void press(CharSequence... keys) {
    driver.switchTo().activeElement().sendKeys(keys);
  }

  /** Hands files to the page as a person would choose them. */
  void choose(List<Path> files) {
    driver
        .findElement(By.cssSelector("input[type=file]"))
        .sendKeys(String.join("\n", files.stream().map(Path::toString).toList()));
  }

  /** Drops a file onto the first match, as a person would drag it from a folder. */
  void drop(String css, String name, String content) {
    script("""
        const data = new DataTransfer();
        data.items.add(new File([arguments[2]], arguments[1], {type: 'text/csv'}));
        const target = document.querySelector(arguments[0]);
        for (const type of ['dragover', 'drop'])
          target.dispatchEvent(new DragEvent(type, {dataTransfer: data, bubbles: true, cancelable: true}));
        """, css, name, content);
  }

  void shoot(Path png) throws IOException {
    Files.createDirectories(png.getParent());
    Files.write(png, ((TakesScreenshot) driver).getScreenshotAs(OutputType.BYTES));
  }

  /** What the browser's console holds that is bad. */
  List<String> complaints() {
    return driver.manage().logs().get(LogType.BROWSER).getAll().stream()
        .filter(e -> e.getLevel().intValue() >= Level.WARNING.intValue())
        .map(LogEntry::getMessage)
        .toList();
  }

  @Override
  public void close() {
    driver.quit();
  }
}
