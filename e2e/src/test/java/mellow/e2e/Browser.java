package mellow.e2e;

import java.io.File;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;
import org.openqa.selenium.OutputType;
import org.openqa.selenium.StaleElementReferenceException;
import org.openqa.selenium.WebElement;
import org.openqa.selenium.chrome.ChromeDriver;
import org.openqa.selenium.chrome.ChromeDriverService;
import org.openqa.selenium.chrome.ChromeOptions;
import org.openqa.selenium.interactions.Actions;
import org.openqa.selenium.support.ui.ExpectedCondition;
import org.openqa.selenium.support.ui.WebDriverWait;

/** A headless Chromium that does what a person does: looks, types, clicks. */
final class Browser implements AutoCloseable {

    private static final Duration PATIENCE = Duration.ofSeconds(60);

    private final ChromeDriver driver;
    private final String address;
    private final Path downloads;

    Browser(String address) {
        this.address = address;
        try {
            this.downloads = Files.createTempDirectory("mellow-downloads-");
            Path profile = Files.createTempDirectory("mellow-chromium-");
            ChromeOptions options = new ChromeOptions();
            options.setBinary("/usr/bin/chromium");
            options.addArguments(
                    "--headless=new",
                    "--no-sandbox",
                    "--disable-gpu",
                    "--disable-quic",
                    "--no-first-run",
                    "--disable-background-networking",
                    "--disable-component-update",
                    "--disable-sync",
                    "--disable-dev-shm-usage",
                    "--user-data-dir=" + profile);
            options.setExperimentalOption(
                    "prefs",
                    Map.of("download.default_directory", downloads.toString(), "download.prompt_for_download", false));
            ChromeDriverService service = new ChromeDriverService.Builder()
                    .usingDriverExecutable(new File("/usr/bin/chromedriver"))
                    .usingAnyFreePort()
                    .build();
            this.driver = new ChromeDriver(service, options);
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
        size(1280, 800, 1);
    }

    /** Sets the size of the page in CSS pixels, and how many device pixels each has. */
    void size(int width, int height, double scale) {
        driver.executeCdpCommand(
                "Emulation.setDeviceMetricsOverride",
                Map.of("width", width, "height", height, "deviceScaleFactor", scale, "mobile", false));
    }

    /** Asks for the day or the lamp theme, as a system does. */
    void theme(String scheme) {
        driver.executeCdpCommand(
                "Emulation.setEmulatedMedia",
                Map.of("features", List.of(Map.of("name", "prefers-color-scheme", "value", scheme))));
    }

    void go(String path) {
        driver.get(address + path);
    }

    String path() {
        return driver.getCurrentUrl().substring(address.length());
    }

    /** Signs in by keyboard. */
    void signIn(String name, String password) {
        see("input[autocomplete=username]").sendKeys(name, Keys.TAB, password, Keys.ENTER);
        gone("input[autocomplete=current-password]");
    }

    /** The first element that fits, as soon as it is in sight. */
    WebElement see(String css) {
        return until(
                d -> d.findElements(By.cssSelector(css)).stream()
                        .filter(WebElement::isDisplayed)
                        .findFirst()
                        .orElse(null),
                "to see " + css);
    }

    /** The first element that fits and holds these words, as soon as it is in sight. */
    WebElement see(String css, String words) {
        return until(
                d -> d.findElements(By.cssSelector(css)).stream()
                        .filter(e -> e.isDisplayed() && e.getText().contains(words))
                        .findFirst()
                        .orElse(null),
                "to see “" + words + "” in " + css);
    }

    /** Waits until nothing fits any more. */
    void gone(String css) {
        until(d -> d.findElements(By.cssSelector(css)).isEmpty() ? Boolean.TRUE : null, css + " to be gone");
    }

    /** Number of elements that fit now. */
    int count(String css) {
        return driver.findElements(By.cssSelector(css)).size();
    }

    <T> T until(ExpectedCondition<T> condition, String what) {
        return new WebDriverWait(driver, PATIENCE, Duration.ofMillis(50))
                .withMessage(() -> "waited for " + what + "; the page says:\n"
                        + driver.findElement(By.tagName("body")).getText())
                .ignoring(StaleElementReferenceException.class)
                .until(condition);
    }

    /** Presses keys wherever the focus is. */
    void press(CharSequence... keys) {
        new Actions(driver).sendKeys(keys).perform();
    }

    /** Presses a key while another is held. */
    void chord(Keys held, CharSequence key) {
        new Actions(driver).keyDown(held).sendKeys(key).keyUp(held).perform();
    }

    WebElement focused() {
        return driver.switchTo().activeElement();
    }

    /** Runs a script that calls the last of its arguments with what it has found. */
    Object later(String script, Object... arguments) {
        return driver.executeAsyncScript(script, arguments);
    }

    Object script(String script, Object... arguments) {
        return driver.executeScript(script, arguments);
    }

    ChromeDriver driver() {
        return driver;
    }

    /** The bytes of the file that the page saved under that name. */
    byte[] downloaded(String name) {
        Path file = downloads.resolve(name);
        until(
                d -> Files.exists(file) && !Files.exists(downloads.resolve(name + ".crdownload")) ? Boolean.TRUE : null,
                "the download of " + name);
        try {
            return Files.readAllBytes(file);
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }

    void picture(Path file) {
        try {
            Files.write(file, driver.getScreenshotAs(OutputType.BYTES));
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }

    /** What the browser complained about since it was last asked. */
    List<String> complaints() {
        return driver.manage().logs().get("browser").getAll().stream()
                .map(Object::toString)
                .toList();
    }

    @Override
    public void close() {
        driver.quit();
    }
}
