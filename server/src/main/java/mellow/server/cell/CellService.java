package mellow.server.cell;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.LongSupplier;
import java.util.stream.Stream;
import mellow.core.cell.Cell;
import mellow.core.cell.CellEvent;
import mellow.core.cell.Offer;
import mellow.core.cell.Standing;
import mellow.core.check.Finding;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChange.How;
import mellow.server.cell.CellChanged.Many;
import mellow.server.cell.CellChanged.RefusedCell;
import mellow.server.cell.CellWork.Result;
import mellow.server.cell.CellWork.Wanted;
import mellow.server.check.CheckService.FindingReply;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.file.AssetFiles;
import mellow.server.language.LanguageService;
import mellow.server.record.Stories;
import mellow.server.record.Stories.Telling;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Changes cells, one or many, takes changes back, and reads a cell's story. */
@Service
public class CellService {

    static final String MOVED_ON = "cell-moved-on";

    /** Code of a text that came back pencilled, because it would not be settled today. */
    private static final String LOWERED = "came-back-pencilled";

    private static final String UNDO = "undo";
    /** More would not be read, and the number says how many there were. */
    private static final int MOST_REFUSALS_TOLD = 200;

    private final CellRepository cells;
    private final CellStory story;
    private final Stories stories;
    private final CellWork work;
    private final CellReader reader;
    private final TableService tables;
    private final LanguageService languages;
    private final TextRules texts;
    private final AssetFiles assets;
    private final Clock clock;

    CellService(
            CellRepository cells,
            CellStory story,
            Stories stories,
            CellWork work,
            CellReader reader,
            TableService tables,
            LanguageService languages,
            TextRules texts,
            AssetFiles assets,
            Clock clock) {
        this.cells = cells;
        this.story = story;
        this.stories = stories;
        this.work = work;
        this.reader = reader;
        this.tables = tables;
        this.languages = languages;
        this.texts = texts;
        this.assets = assets;
        this.clock = clock;
    }

    /**
     * Changes a cell.
     *
     * @param person who does it
     * @return the cell afterwards
     * @throws Refusal 409 {@code cell-moved-on} with the cell as it is now, when {@code change.version()} is not its version; 403 or 422 with the rule
     *     that stands against it
     */
    @Transactional
    public CellChanged change(long person, long entryId, LanguageTag tag, CellChange change) {
        int language = kept(tag);
        CellKey key = new CellKey(entryId, language);
        long number = newChange();
        String origin = change.action() == Action.PUT_BACK
                ? UNDO
                : Objects.requireNonNullElse(change.how(), How.TYPED).word();
        Result result = work.carryOut(
                new Telling(number, person, clock.instant(), origin, change.reason()),
                List.of(new Wanted(
                        key,
                        change.version(),
                        true,
                        (cell, entry, in, offer) -> event(key, change, cell, entry.shape(), in.tag(), offer))));
        for (Refusal refusal : result.refused().values()) {
            throw refusal.code().equals(MOVED_ON) ? movedOn(refusal, key) : refusal;
        }
        List<Finding> lowered = result.lowered().get(key);
        return new CellChanged(
                number,
                reader.one(entryId, language),
                lowered == null ? null : lowered.stream().map(FindingReply::of).toList());
    }

    private int kept(LanguageTag tag) {
        return languages
                .known(tag)
                .orElseThrow(() -> Refusal.unacceptable(
                        "language-not-kept", "No table is kept in {language}.", Map.of("language", tag)));
    }

    /** Changes many cells as one change; cells that a rule stands against stay as they are and are named. */
    @Transactional
    public Many changeMany(long person, ManyChanges changes) {
        return changeMany(person, changes, newChange(), Progress.UNWATCHED);
    }

    /** A number for a change, for who has to know it before the change is made. */
    public long newChange() {
        return stories.nextChange();
    }

    /** The same under a number that was made before, telling how far it is. */
    @Transactional
    public Many changeMany(long person, ManyChanges changes, long number, Progress progress) {
        boolean blind = changes.action() == Action.STILL_HOLDS
                || changes.action() == Action.SETTLE
                || changes.action() == Action.RETURN;
        Map<CellKey, Wanted> wanted = new HashMap<>();
        Map<String, LanguageTag> tags = new HashMap<>();
        for (ManyChanges.One one : changes.cells()) {
            if (one.version() == null && !blind) {
                throw Refusal.unacceptable(
                        "version-missing",
                        "Say which version of each cell was seen, so that nobody's newer text is replaced.",
                        Map.of("field", "version"));
            }
            LanguageTag tag = tags.computeIfAbsent(one.language(), languages::parse);
            CellKey key = new CellKey(one.entry(), kept(tag));
            CellChange change = new CellChange(
                    changes.action(),
                    0,
                    one.text(),
                    one.offer(),
                    changes.reason(),
                    changes.meaningConfirmed(),
                    null,
                    one.forms(),
                    changes.how());
            Wanted before = wanted.put(
                    key,
                    new Wanted(
                            key,
                            one.version(),
                            false,
                            (cell, entry, in, offer) ->
                                    event(key, beside(change, cell), cell, entry.shape(), tag, offer)));
            if (before != null) {
                throw Refusal.unacceptable(
                        "cell-twice", "A cell can be changed once in one go, and one is named twice.");
            }
        }
        String origin = Objects.requireNonNullElse(changes.how(), How.TYPED).word();
        Telling telling = new Telling(number, person, clock.instant(), origin, changes.reason());
        return reply(number, work.carryOut(telling, List.copyOf(wanted.values()), progress));
    }

    /**
     * Takes back a change of one's own, of one cell or many; itself a change, so that taking it back does it again.
     *
     * @return the undo; empty when {@code person} made no such change of cells
     */
    @Transactional
    public Optional<Many> undo(long person, long change) {
        List<Wanted> wanted = new ArrayList<>();
        story.undo(person, change)
                .forEach((key, undo) -> wanted.add(new Wanted(key, null, true, (cell, entry, kept, offer) -> undo)));
        if (wanted.isEmpty()) {
            return Optional.empty();
        }
        long number = newChange();
        Telling telling = new Telling(number, person, clock.instant(), UNDO, null);
        return Optional.of(reply(number, work.carryOut(telling, wanted)));
    }

    /** Says something to the reviewer about an open offer of one's own, in place of what was said. */
    @Transactional
    public void say(long author, long offer, String note) {
        cells.holdOffer(offer)
                .filter(one -> one.waitsFor(author))
                .orElseThrow(() -> Refusal.unacceptable(
                        "no-open-offer", "A note can be written to an offer of one's own that still waits."))
                .say(note.strip());
    }

    /** The story of a cell, newest first. */
    @Transactional(readOnly = true)
    public List<StoryLine> story(long entryId, LanguageTag tag) {
        TableInfo table = tables.find(cells.tableOf(entryId).orElseThrow(Refusal::noSuchEntry));
        return table.language(tag)
                .map(kept -> story.lines(new CellKey(entryId, kept.number())))
                .orElse(List.of());
    }

    private Many reply(long number, Result result) {
        Map<Long, String> keys = new HashMap<>();
        Collection<Long> named = Stream.of(result.refused(), result.lowered())
                .flatMap(cells -> cells.keySet().stream().limit(MOST_REFUSALS_TOLD))
                .map(CellKey::entryId)
                .toList();
        cells.holdEntries(named).forEach(entry -> keys.put(entry.id(), entry.key()));
        List<RefusedCell> refused = result.refused().entrySet().stream()
                .limit(MOST_REFUSALS_TOLD)
                .map(one -> told(
                        one.getKey(),
                        keys,
                        one.getValue().code(),
                        String.valueOf(one.getValue().getMessage())))
                .toList();
        List<RefusedCell> lowered = result.lowered().entrySet().stream()
                .limit(MOST_REFUSALS_TOLD)
                .map(one -> told(one.getKey(), keys, LOWERED, Finding.sentences(one.getValue())))
                .toList();
        return new Many(
                number,
                result.changed(),
                refused,
                result.refused().size(),
                lowered,
                result.lowered().size());
    }

    private RefusedCell told(CellKey cell, Map<Long, String> keys, String code, String sentence) {
        return new RefusedCell(
                cell.entryId(),
                keys.get(cell.entryId()),
                languages.tag(cell.languageId()).value(),
                code,
                sentence);
    }

    /** Among many, a text that cannot be pencilled because a settled one stands there is offered beside it. */
    private static CellChange beside(CellChange change, Cell cell) {
        return change.action() == Action.PENCIL && cell.standing() == Standing.SETTLED
                ? change.as(Action.OFFER)
                : change;
    }

    private CellEvent event(
            CellKey key, CellChange change, Cell cell, Shape shape, LanguageTag tag, LongSupplier offer) {
        return switch (change.action()) {
            case PENCIL -> new CellEvent.Pencil(text(change, shape, tag));
            case PUT_FORWARD -> new CellEvent.PutForward(text(change, shape, tag), offer.getAsLong());
            case OFFER -> new CellEvent.MakeOffer(text(change, shape, tag), offer.getAsLong());
            case SETTLE -> new CellEvent.Settle(offer(change, cell), change.meaningConfirmed());
            case AMEND -> new CellEvent.Amend(offer(change, cell), text(change, shape, tag));
            case RETURN -> new CellEvent.Return(offer(change, cell), Objects.requireNonNullElse(change.reason(), ""));
            case WITHDRAW -> new CellEvent.Withdraw(offer(change, cell));
            case STILL_HOLDS -> new CellEvent.StillHolds(offer.getAsLong());
            case CLEAR -> new CellEvent.Clear();
            case PUT_BACK ->
                story.putBack(key, Objects.requireNonNullElse(change.line(), 0L))
                        .orElseThrow(() -> Refusal.unacceptable(
                                "no-such-line",
                                "This line of the story holds no text that can be put back.",
                                Map.of("field", "line")));
        };
    }

    private Text text(CellChange change, Shape shape, LanguageTag tag) {
        SortedMap<String, String> forms = new TreeMap<>(Objects.requireNonNullElseGet(
                change.forms(),
                () -> new TreeMap<>(Map.of(Text.OTHER, Objects.requireNonNullElse(change.text(), "")))));
        forms.replaceAll((form, text) -> text.replace("\r\n", "\n").replace('\r', '\n'));
        forms.values().forEach(text -> texts.require(text, "text"));
        boolean empty = forms.values().stream().allMatch(String::isEmpty);
        Optional<String> misfit =
                shape.misfit(forms, languages.describe(tag).plurals().keySet());
        if (misfit.isPresent()) {
            throw Refusal.unacceptable(
                    empty ? "empty-text" : "wrong-forms", misfit.get(), Map.of("field", empty ? "text" : "forms"));
        }
        if (shape == Shape.ASSET) {
            assets.require(forms);
        }
        return Shape.text(forms);
    }

    /** The offer that is meant: the one named, or the only one that waits. */
    private static long offer(CellChange change, Cell cell) {
        if (change.offer() != null) {
            return change.offer();
        }
        List<Offer> open = cell.offers().stream().filter(Offer::open).toList();
        if (open.size() != 1) {
            throw Refusal.unacceptable(
                    "offer-missing",
                    open.isEmpty() ? "No offer waits here." : "Several offers wait here; say which one is meant.",
                    Map.of("field", "offer"));
        }
        return open.get(0).id();
    }

    private Refusal movedOn(Refusal refusal, CellKey key) {
        return Refusal.conflict(
                MOVED_ON,
                String.valueOf(refusal.getMessage()),
                Map.of("cell", reader.one(key.entryId(), key.languageId())));
    }
}
