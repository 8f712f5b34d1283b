package mellow.server.demo;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import mellow.core.language.LanguageTag;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.text.Shape;
import mellow.server.asset.AssetSets;
import mellow.server.bundle.BundleSettings;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellService;
import mellow.server.code.CodeSettingsService;
import mellow.server.code.Scanning;
import mellow.server.common.Coded;
import mellow.server.common.LedgerClock;
import mellow.server.coverage.CoverageService;
import mellow.server.delivery.Deliveries;
import mellow.server.demo.Scenario.Answer;
import mellow.server.demo.Scenario.Asked;
import mellow.server.demo.Scenario.Looked;
import mellow.server.demo.Scenario.Person;
import mellow.server.demo.Scenario.Shaped;
import mellow.server.demo.Scenario.Step;
import mellow.server.demo.Scenario.Word;
import mellow.server.entry.Description;
import mellow.server.entry.EntryService;
import mellow.server.finding.FontService;
import mellow.server.finding.SettingsService;
import mellow.server.intake.Drops;
import mellow.server.intake.IntakeService;
import mellow.server.memory.Shelves;
import mellow.server.people.Level;
import mellow.server.people.PeopleService;
import mellow.server.people.SignedIn;
import mellow.server.product.ProductService;
import mellow.server.question.QuestionService;
import mellow.server.recording.RecordingService;
import mellow.server.rehearsal.SceneService;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import mellow.server.wordbook.WordbookService;
import org.springframework.core.io.ClassPathResource;
import org.springframework.core.io.Resource;
import org.springframework.core.io.support.PathMatchingResourcePatternResolver;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Plays the demo scenario: people, files taken in one after another as those people would, at times over the last two months. */
@Component
public class DemoLoader {

    private static final String CELL = Coded.sql(
            """
            select e.id entry, coalesce(c.version, 0) version, (select o.id from offer o where o.entry_id = e.id and o.language_id = l.id and o.answer = {answer.open} order by o.id limit 1) offer
            from entry e join ledger_table t on t.id = e.table_id cross join language l left join cell c on c.entry_id = e.id and c.language_id = l.id
            where t.slug = :table and e.key = :key and l.tag = :language and e.removed_at is null
            """);

    private static final TypeReference<List<Word>> WORDS = new TypeReference<>() {};
    private static final TypeReference<List<Shaped>> SHAPED = new TypeReference<>() {};
    private static final int FIRST_DAY = 1500;
    private static final int LAST_SEEN = 60;

    private final IntakeService intakes;
    private final Drops drops;
    private final EntryService entries;
    private final TableService tables;
    private final ProductService products;
    private final CoverageService coverage;
    private final CellService cells;
    private final PeopleService people;
    private final WordbookService wordbook;
    private final Shelves shelves;
    private final QuestionService questions;
    private final SettingsService settings;
    private final FontService fonts;
    private final SceneService scenes;
    private final Deliveries deliveries;
    private final CodeSettingsService codes;
    private final Scanning scanning;
    private final AssetSets assets;
    private final RecordingService recordings;
    private final BundleSettings bundles;
    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final LedgerClock clock;

    DemoLoader(
            IntakeService intakes,
            Drops drops,
            EntryService entries,
            TableService tables,
            ProductService products,
            CoverageService coverage,
            CellService cells,
            PeopleService people,
            WordbookService wordbook,
            Shelves shelves,
            QuestionService questions,
            SettingsService settings,
            FontService fonts,
            SceneService scenes,
            Deliveries deliveries,
            CodeSettingsService codes,
            Scanning scanning,
            AssetSets assets,
            RecordingService recordings,
            BundleSettings bundles,
            JdbcClient jdbc,
            JsonMapper json,
            LedgerClock clock) {
        this.intakes = intakes;
        this.drops = drops;
        this.entries = entries;
        this.tables = tables;
        this.products = products;
        this.coverage = coverage;
        this.cells = cells;
        this.people = people;
        this.wordbook = wordbook;
        this.shelves = shelves;
        this.questions = questions;
        this.settings = settings;
        this.fonts = fonts;
        this.scenes = scenes;
        this.deliveries = deliveries;
        this.codes = codes;
        this.scanning = scanning;
        this.assets = assets;
        this.recordings = recordings;
        this.bundles = bundles;
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /** Whether the demo's people are here. */
    public boolean loaded() {
        return scenario().people().stream()
                .findFirst()
                .flatMap(first -> people.find(first.signIn()))
                .isPresent();
    }

    /** The sentence that tells how to sign in. */
    public String signIns() {
        Scenario scenario = scenario();
        List<String> shown = scenario.people().stream()
                .filter(Person::shown)
                .map(person -> person.signIn() + " (" + person.role() + ")")
                .toList();
        return "Sign in as " + String.join(", ", shown) + "; the password of all is " + scenario.password();
    }

    /** Loads everything into an empty database. */
    public void load(Consumer<String> tell) {
        Scenario scenario = scenario();
        Instant now = clock.instant();
        clock.at(now.minus(Duration.ofHours(FIRST_DAY)), () -> scenario.people().forEach(this::add));
        long first = person(scenario.people().get(0).signIn());
        List<ProductService.Definition> toMake = new ArrayList<>(scenario.products());
        for (Step step : scenario.steps()) {
            Instant at = now.minus(Duration.ofHours(step.hoursAgo()));
            clock.at(at, () -> {
                play(scenario, step, at, tell);
                make(scenario, toMake, first);
                deliver(step, first, tell);
            });
        }
        json.readValue(content(scenario.wordbook()), WORDS)
                .forEach(word -> wordbook.add(first, "en", word.term(), word.note(), word.texts()));
        scenario.shelves().forEach((name, file) -> shelves.add(first, name, file, content(file)));
        scenario.checks().forEach((table, wanted) -> settings.changeTable(first, table, wanted));
        scenario.fonts().forEach(font -> fonts.put(first, font.product(), null, font.size(), content(font.file())));
        scenario.scenes()
                .forEach(drawn -> scenes.add(
                        first, drawn.product(), drawn.file(), content("scenes/" + drawn.file()), null, false));
        scenario.served().forEach(product -> bundles.serve(first, product));
        scenario.questions().forEach(question -> ask(question, now));
        scenario.code().forEach(looked -> look(first, looked));
        // Everyone has been here before, so that there is news.
        clock.at(now.minus(Duration.ofHours(LAST_SEEN)), () -> scenario.people()
                .forEach(person -> people.here(person(person.signIn()))));
    }

    private void add(Person person) {
        long id = people.add(person.signIn(), person.name(), scenario().password(), person.coordinator());
        person.rights()
                .forEach((language, level) ->
                        people.give(id, new LanguageTag(language), Level.valueOf(level.toUpperCase(Locale.ROOT))));
    }

    /** Makes the products whose tables are all there, with what they get. */
    private void make(Scenario scenario, List<ProductService.Definition> toMake, long person) {
        Set<String> there = tables.all().stream().map(one -> one.table().slug()).collect(Collectors.toSet());
        for (ProductService.Definition product : List.copyOf(toMake)) {
            if (there.containsAll(product.tables())) {
                String slug = products.create(person, product).slug();
                toMake.remove(product);
                scenario.recipes().stream()
                        .filter(recipe -> recipe.product().equals(slug))
                        .forEach(recipe -> deliveries.addRecipe(person, slug, recipe.name(), recipe.settings()));
            }
        }
    }

    private void deliver(Step step, long person, Consumer<String> tell) {
        for (String product : step.deliver()) {
            tell.accept(product + " delivered");
            deliveries.deliver(person, product);
        }
        if (step.every() != null) {
            step.every().forEach((product, hours) -> deliveries.every(person, product, hours, "Europe/Helsinki"));
        }
    }

    private void play(Scenario scenario, Step step, Instant at, Consumer<String> tell) {
        if (step.file() != null) {
            tell.accept(step.file() + " into " + Objects.requireNonNullElse(step.table(), "") + " by " + step.by());
            takeIn(step);
        }
        if (step.folder() != null) {
            tell.accept("the folder " + step.folder() + " by " + step.by());
            drop(step);
        }
        if (step.shaped() != null) {
            tell.accept(step.shaped() + " into " + step.table() + " by " + step.by());
            shaped(scenario, step, at);
        }
        if (step.media() != null) {
            tell.accept("the pictures and sounds of " + step.media() + " by " + step.by());
            bring(step);
        }
        for (Answer answer : step.answers()) {
            answer(step, answer);
        }
        coverage.noteDay();
    }

    /** Makes entries that no spreadsheet column can hold; each text is offered by its language's translator and settled by the step's person. */
    private void shaped(Scenario scenario, Step step, Instant at) {
        long person = person(step.by());
        String slug = slug(step.table());
        List<Shaped> entries = json.readValue(content(Objects.requireNonNull(step.shaped())), SHAPED);
        for (Shaped entry : entries) {
            Description said =
                    new Description(entry.key(), "", entry.note(), "", entry.section(), 0, 0, 0, List.of(), true);
            long id = this.entries
                    .create(person, slug, Shape.of(entry.shape()).orElseThrow(), said, entry.source(), null)
                    .entries()
                    .get(0);
            entry.texts().forEach((language, forms) -> {
                LanguageTag tag = new LanguageTag(language);
                long translator =
                        person(Objects.requireNonNull(scenario.translators().get(language), language));
                Instant offered = at.plus(Duration.ofHours(2));
                clock.at(
                        offered,
                        () -> cells.change(translator, id, tag, CellChange.forms(Action.PUT_FORWARD, 0, forms)));
                clock.at(offered.plus(Duration.ofHours(1)), () -> settle(person, slug, entry.key(), tag));
            });
        }
    }

    private String slug(String table) {
        return jdbc.sql("select slug from ledger_table where name = :name")
                .param("name", table)
                .query(String.class)
                .single();
    }

    private void takeIn(Step step) {
        long person = person(step.by());
        String file = Objects.requireNonNull(step.file());
        long intake = intakes.upload(person, Objects.requireNonNullElse(step.as(), file), content(file));
        String table = Objects.requireNonNull(step.table());
        Optional<String> slug = jdbc.sql("select slug from ledger_table where name = :name")
                .param("name", table)
                .query(String.class)
                .optional();
        intakes.decide(person, intake, slug.orElse(null), slug.isPresent() ? null : table, step.arrival());
        if (Boolean.TRUE.equals(step.open())) {
            return;
        }
        if (Boolean.TRUE.equals(step.withoutSource())) {
            intakes.decide(person, intake, ChangeKind.WITHOUT_SOURCE, Choice.TAKE);
        }
        intakes.apply(person, intake, Progress.UNWATCHED);
        if (!step.settlesOwn().isEmpty()) {
            letSettleOwn(slug(table), step.settlesOwn());
        }
    }

    private void letSettleOwn(String slug, List<String> languages) {
        TableService.Listed listed = tables.all().stream()
                .filter(one -> one.table().slug().equals(slug))
                .findFirst()
                .orElseThrow();
        TableInfo table = listed.table();
        List<Kept> kept = table.languages().stream()
                .map(one -> new Kept(
                        one.tag(),
                        one.number(),
                        one.settlesOwn() || languages.contains(one.tag().value()),
                        one.settlesDrafts()))
                .toList();
        tables.edit(person(scenario().people().get(0).signIn()), slug, listed.version(), table.name(), kept);
    }

    /** Files of one table in many languages, which wait for a decision. */
    private void drop(Step step) {
        long person = person(step.by());
        long drop = drops.begin(person);
        for (String file : Objects.requireNonNull(step.files())) {
            String path = step.folder() + "/" + file;
            drops.add(person, drop, path, content(path));
        }
        drops.sort(person, drop, Progress.UNWATCHED);
    }

    /** Pictures and sounds as a folder of them comes in. */
    private void bring(Step step) {
        long person = person(step.by());
        long set = assets.bring(person, folder("demo/" + step.media() + "/"), step.table());
        intakes.apply(person, assets.compare(person, set), Progress.UNWATCHED);
        if (step.lines() != null) {
            recordings.alike(person, slug(step.table()), slug(step.lines()), true);
        }
    }

    /** The files below a folder of the demo, by their paths in it. */
    private static Map<String, byte[]> folder(String root) {
        Map<String, byte[]> files = new TreeMap<>();
        try {
            for (Resource file : new PathMatchingResourcePatternResolver().getResources("classpath:" + root + "**")) {
                String path = file.getURL().toString();
                if (file.isReadable() && !path.endsWith("/")) {
                    files.put(path.substring(path.indexOf(root) + root.length()), file.getContentAsByteArray());
                }
            }
        } catch (IOException missing) {
            throw new UncheckedIOException(missing);
        }
        return files;
    }

    private void answer(Step step, Answer answer) {
        Place place = place(slug(step.table()), answer.key(), answer.language());
        CellChange change = new CellChange(
                answer.action(),
                place.version(),
                answer.text(),
                place.offer(),
                answer.reason(),
                answer.action() == Action.SETTLE,
                null);
        cells.change(person(step.by()), place.entry(), new LanguageTag(answer.language()), change);
    }

    private void settle(long person, String slug, String key, LanguageTag tag) {
        Place place = place(slug, key, tag.value());
        cells.change(
                person, place.entry(), tag, CellChange.answer(Action.SETTLE, place.version(), place.offer(), null));
    }

    private Place place(String slug, String key, String language) {
        return jdbc.sql(CELL)
                .param("table", slug)
                .param("key", key)
                .param("language", language)
                .query((row, n) -> new Place(row.getLong("entry"), row.getInt("version"), row.getLong("offer")))
                .optional()
                .orElseThrow(() -> new IllegalStateException("The demo answers an entry that does not exist: " + key));
    }

    /** Looks through a source tree of the demo, as somebody who brings it in an archive. */
    private void look(long person, Looked looked) {
        if (looked.settings() != null) {
            codes.change(person, looked.product(), looked.settings());
        }
        ByteArrayOutputStream archive = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(archive)) {
            for (Map.Entry<String, byte[]> file :
                    folder("demo/code/" + looked.folder() + "/").entrySet()) {
                zip.putNextEntry(new ZipEntry(file.getKey()));
                zip.write(file.getValue());
                zip.closeEntry();
            }
        } catch (IOException missing) {
            throw new UncheckedIOException(missing);
        }
        long scan = scanning.archive(person, looked.product(), looked.folder() + ".zip", archive.toByteArray());
        scanning.await(scan);
    }

    private void ask(Asked asked, Instant now) {
        Instant at = now.minus(Duration.ofHours(asked.hoursAgo()));
        long entry = jdbc.sql(
                        "select e.id from entry e join ledger_table t on t.id = e.table_id where t.name = :table and e.key = :key and e.removed_at is null")
                .param("table", asked.table())
                .param("key", asked.key())
                .query(Long.class)
                .single();
        clock.at(at, () -> questions.ask(person(asked.by()), entry, asked.text()));
        String answer = asked.answer();
        if (answer != null) {
            long question = jdbc.sql("select max(id) from question where entry_id = :entry")
                    .param("entry", entry)
                    .query(Long.class)
                    .single();
            clock.at(
                    at.plus(Duration.ofHours(1)),
                    () -> questions.answer(person(Objects.requireNonNull(asked.answeredBy())), question, answer));
        }
    }

    private record Place(long entry, int version, long offer) {}

    private long person(String signIn) {
        return people.find(signIn)
                .map(SignedIn::id)
                .orElseThrow(() -> new IllegalStateException("The demo has nobody called " + signIn));
    }

    private Scenario scenario() {
        return json.readValue(content("scenario.json"), Scenario.class);
    }

    private static byte[] content(String file) {
        try (InputStream in = new ClassPathResource("demo/" + file).getInputStream()) {
            return in.readAllBytes();
        } catch (IOException missing) {
            throw new UncheckedIOException(missing);
        }
    }
}
