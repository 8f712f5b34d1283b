package mellow.e2e;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.openqa.selenium.By;
import org.openqa.selenium.Keys;

/**
 * Takes pictures of Mellow Ledger: {@code Pictures FILE FOLDER [ADDRESS]}, where each line of FILE is
 * "name | person | path | steps | light or dark | width | height | zoom" and steps are divided by ";;". Without an address it starts the demo itself.
 */
final class Pictures {

    private static final int NAME = 0;
    private static final int PERSON = 1;
    private static final int PATH = 2;
    private static final int STEPS = 3;
    private static final int THEME = 4;
    private static final int WIDTH = 5;
    private static final int HEIGHT = 6;
    private static final int ZOOM = 7;

    private Pictures() {}

    public static void main(String[] arguments) throws IOException, InterruptedException {
        List<String> wanted = Files.readAllLines(Path.of(arguments[0]));
        Path folder = Path.of(arguments[1]);
        for (String line : wanted) {
            String[] part = line.split("\\|", -1);
            for (int i = 0; i < part.length; i++) {
                part[i] = part[i].strip();
            }
            if (line.isBlank()) {
                continue;
            }
            try (Browser browser = arguments.length > 2 ? new Browser(arguments[2]) : DemoServer.browse()) {
                double zoom = Double.parseDouble(part[ZOOM]);
                browser.size(
                        (int) (Integer.parseInt(part[WIDTH]) / zoom),
                        (int) (Integer.parseInt(part[HEIGHT]) / zoom),
                        zoom);
                browser.theme(part[THEME]);
                browser.go(part[PATH]);
                if (!part[PERSON].isEmpty()) {
                    browser.signIn(part[PERSON], DemoServer.PASSWORD);
                }
                Thread.sleep(1500);
                for (String step : part[STEPS].split(";;")) {
                    perform(browser, step.strip());
                }
                browser.picture(folder.resolve(part[NAME] + ".png"));
                browser.complaints().forEach(complaint -> System.err.println(part[NAME] + ": " + complaint));
            }
        }
        // The demo server's threads would keep the program alive.
        System.exit(0);
    }

    private static void perform(Browser browser, String step) throws InterruptedException {
        if (step.startsWith("js:")) {
            browser.script(step.substring(3));
        } else if (step.startsWith("click:")) {
            String[] target = step.substring(6).split("~", 2);
            (target.length > 1 ? browser.see(target[0], target[1]) : browser.see(target[0])).click();
        } else if (step.startsWith("file:")) {
            browser.driver()
                    .findElement(By.cssSelector("input[type=file]"))
                    .sendKeys(Path.of(step.substring(5)).toAbsolutePath().toString());
        } else if (step.startsWith("keys:")) {
            for (String key : step.substring(5).split(" ")) {
                browser.press(key.startsWith("<") ? Keys.valueOf(key.substring(1, key.length() - 1)) : key);
            }
        } else {
            return;
        }
        Thread.sleep(900);
    }
}
