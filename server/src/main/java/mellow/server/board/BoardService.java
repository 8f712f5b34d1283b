package mellow.server.board;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import mellow.core.cell.CellState;
import mellow.core.language.LanguageTag;
import mellow.core.plan.Forecast;
import mellow.core.plan.Forecast.Point;
import mellow.server.activity.ActivityService;
import mellow.server.activity.ActivityService.Happened;
import mellow.server.coverage.CoverageService;
import mellow.server.coverage.CoverageService.Count;
import mellow.server.coverage.CoverageService.Left;
import mellow.server.coverage.CoverageService.Place;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import mellow.server.table.TableService.Listed;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Adds up what the counters, the notes of past days and the activity log say; never reads a cell. */
@Service
class BoardService {

    private static final int DAYS_SHOWN = 70;

    private final ActivityService activity;
    private final CoverageService coverage;
    private final TableService tables;
    private final PeopleService people;
    private final LanguageService languages;
    private final Clock clock;

    BoardService(
            ActivityService activity,
            CoverageService coverage,
            TableService tables,
            PeopleService people,
            LanguageService languages,
            Clock clock) {
        this.activity = activity;
        this.coverage = coverage;
        this.tables = tables;
        this.people = people;
        this.languages = languages;
        this.clock = clock;
    }

    /** What others did since {@code person} was last here. */
    @Transactional(readOnly = true)
    public NewsReply news(long person) {
        Instant since = people.lastHere(person);
        Map<Long, Listed> known = tables.all().stream()
                .collect(Collectors.toMap(listed -> listed.table().id(), listed -> listed));
        Map<Long, String> names = people.names();
        List<NewsLine> lines = new ArrayList<>();
        for (Happened one : activity.since(since, person)) {
            Listed table = known.get(one.table());
            if (table != null) {
                lines.add(new NewsLine(
                        table.table().slug(),
                        table.table().name(),
                        one.language() == ActivityService.NO_LANGUAGE
                                ? null
                                : languages.tag(one.language()).value(),
                        one.what(),
                        one.amount(),
                        one.people(),
                        names.getOrDefault(one.person(), ""),
                        one.subject() == 0 ? null : one.subject(),
                        one.lastAt()));
            }
        }
        return new NewsReply(since, lines);
    }

    /**
     * What was left to settle over the last ten weeks, and when it ends.
     *
     * @param slugs the tables that count, all when empty
     * @param only the languages that count, all when empty
     * @param words whether words are counted instead of entries
     */
    @Transactional(readOnly = true)
    public List<LeftReply> left(Set<String> slugs, Set<LanguageTag> only, boolean words) {
        LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        Map<Long, Listed> counted = tables.all().stream()
                .filter(listed ->
                        slugs.isEmpty() || slugs.contains(listed.table().slug()))
                .collect(Collectors.toMap(listed -> listed.table().id(), listed -> listed));
        Map<Integer, TreeMap<LocalDate, Map<Long, Long>>> byLanguage = new LinkedHashMap<>();
        for (Listed listed : counted.values()) {
            for (Kept kept : listed.table().languages()) {
                if (only.isEmpty() || only.contains(kept.tag())) {
                    byLanguage.computeIfAbsent(kept.number(), n -> new TreeMap<>());
                }
            }
        }
        for (Left note : coverage.days(today.minusDays(DAYS_SHOWN))) {
            TreeMap<LocalDate, Map<Long, Long>> days =
                    byLanguage.get(note.place().language());
            if (days != null
                    && counted.containsKey(note.place().table())
                    && note.day().isBefore(today)) {
                days.computeIfAbsent(note.day(), d -> new HashMap<>())
                        .put(note.place().table(), amount(note.left(), words));
            }
        }
        Map<Place, Map<CellState, Count>> now = coverage.all();
        return byLanguage.entrySet().stream()
                .map(one -> reply(one.getKey(), one.getValue(), today, counted, now, words))
                .sorted(Comparator.comparing(LeftReply::language))
                .toList();
    }

    private LeftReply reply(
            int language,
            TreeMap<LocalDate, Map<Long, Long>> days,
            LocalDate today,
            Map<Long, Listed> counted,
            Map<Place, Map<CellState, Count>> now,
            boolean words) {
        Map<Long, Long> todays = new HashMap<>();
        for (Listed listed : counted.values()) {
            if (listed.table().languages().stream().anyMatch(kept -> kept.number() == language)) {
                Count settled = now.getOrDefault(new Place(listed.table().id(), language), Map.of())
                        .getOrDefault(CellState.SETTLED, new Count(0, 0));
                long all = words ? listed.words() : listed.entries();
                todays.put(listed.table().id(), all - amount(settled, words));
            }
        }
        days.put(today, todays);
        List<Point> points = points(days);
        return new LeftReply(
                languages.tag(language).value(),
                points.stream()
                        .map(point -> new LeftPoint(point.day(), point.left()))
                        .toList(),
                Forecast.from(points)
                        .map(ahead ->
                                new ForecastReply(ahead.pace(), ahead.expected(), ahead.earliest(), ahead.latest()))
                        .orElse(null));
    }

    /** A table without a note for a day counts as on the day before, so that a new table is a step up and a missing note is none. */
    private static List<Point> points(TreeMap<LocalDate, Map<Long, Long>> days) {
        Map<Long, Long> latest = new HashMap<>();
        List<Point> points = new ArrayList<>();
        days.forEach((day, byTable) -> {
            latest.putAll(byTable);
            points.add(new Point(
                    day, latest.values().stream().mapToLong(left -> left).sum()));
        });
        return points;
    }

    private static long amount(Count count, boolean words) {
        return words ? count.words() : count.entries();
    }

    /**
     * What others did.
     *
     * @param since when the person was last here
     */
    record NewsReply(Instant since, List<NewsLine> lines) {}

    /**
     * One kind of thing that happened in one place.
     *
     * @param language the language's tag, null for the whole table
     * @param what a word of the story
     * @param amount how many cells or entries
     * @param people how many people did it
     * @param person the one who did it last
     * @param intake the intake it came by, null for none
     */
    record NewsLine(
            String table,
            String tableName,
            @Nullable String language,
            String what,
            int amount,
            int people,
            String person,
            @Nullable Long intake,
            Instant at) {}

    /**
     * What is left in a language.
     *
     * @param language the language's tag
     * @param points by day, the last one is today
     * @param forecast when nothing is left at this pace, null when there is no pace to speak of
     */
    record LeftReply(String language, List<LeftPoint> points, @Nullable ForecastReply forecast) {}

    /** What was left at the end of a day. */
    record LeftPoint(LocalDate day, long left) {}

    /**
     * When it ends.
     *
     * @param pace what is done per day
     * @param latest null when at the slower pace it never ends
     */
    record ForecastReply(double pace, LocalDate expected, LocalDate earliest, @Nullable LocalDate latest) {}
}
