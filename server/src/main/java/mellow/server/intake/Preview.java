package mellow.server.intake;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import mellow.core.cell.Standing;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.Problem;
import mellow.core.format.csv.CsvReading;
import mellow.core.language.LanguageTag;
import mellow.core.merge.SourceDecision;
import mellow.core.merge.TextEffect;
import mellow.core.merge.TextEffect.Arrival;
import mellow.server.intake.Comparison.Arriving;
import mellow.server.intake.PreviewReply.Group;
import mellow.server.intake.PreviewReply.Kind;
import mellow.server.intake.PreviewReply.Line;
import mellow.server.record.RecordCell;
import mellow.server.record.RecordEntry;
import org.jspecify.annotations.Nullable;

/** Counts what a file would do and keeps the first lines of each kind. The same counts become the report when it is applied. */
final class Preview implements Comparison.Listener {

    private static final int LONGEST_SHOWN = 400;

    private final Map<Kind, List<Line>> lines = new EnumMap<>(Kind.class);
    private final Map<Kind, Integer> counts = new EnumMap<>(Kind.class);
    private final Map<LanguageTag, Arrival> arrivals;
    private final boolean meaningMoves;
    private final boolean coordinator;
    private int met;
    private int touched;
    private long lastTouched = -1;
    private long lastRewritten = -1;

    Preview(Map<LanguageTag, Arrival> arrivals, boolean meaningMoves, boolean coordinator) {
        this.arrivals = arrivals;
        this.meaningMoves = meaningMoves;
        this.coordinator = coordinator;
    }

    @Override
    public void added(int index, FileEntry entry, String source, List<Arriving> texts) {
        if (!coordinator) {
            add(Kind.NO_RIGHT, entry.key(), null, null, source, null);
            return;
        }
        add(Kind.NEW_ENTRIES, entry.key(), null, null, source, null);
        for (Arriving text : texts) {
            add(Kind.TEXTS_ADDED, entry.key(), text.tag(), null, text.text(), becomes(text));
        }
    }

    @Override
    public void met(int index, RecordEntry entry) {
        met++;
    }

    @Override
    public void rewritten(RecordEntry entry, String source, boolean conflict) {
        if (!coordinator) {
            add(Kind.NO_RIGHT, entry.entryId().key(), null, entry.source(), source, null);
            return;
        }
        touch(entry);
        lastRewritten = entry.id();
        add(
                conflict ? Kind.SOURCE_CONFLICTS : Kind.SOURCES_REWRITTEN,
                entry.entryId().key(),
                null,
                entry.source(),
                source,
                null);
        if (meaningMoves) {
            entry.cells().forEach((tag, cell) -> {
                if (cell.standing() != Standing.NONE) {
                    add(Kind.GO_STALE, entry.entryId().key(), tag, cell.text(), null, null);
                }
            });
        }
    }

    @Override
    public void sourceKept(RecordEntry entry, String source, SourceDecision decision) {
        add(Kind.EDITED_HERE, entry.entryId().key(), null, entry.source(), source, null);
    }

    @Override
    public void described(RecordEntry entry, FileEntry now) {
        if (coordinator) {
            touch(entry);
            add(
                    Kind.DESCRIPTIONS,
                    entry.entryId().key(),
                    null,
                    description(entry.section(), entry.note(), entry.maxLength()),
                    description(now.section(), now.note(), now.maxLength()),
                    null);
        }
    }

    @Override
    public void text(RecordEntry entry, Arriving text, RecordCell mine) {
        touch(entry);
        Kind kind =
                switch (text.decision()) {
                    case ADD -> Kind.TEXTS_ADDED;
                    case CONFLICT -> Kind.CONFLICTS;
                    case DIFFERS ->
                        mine.standing() == Standing.SETTLED ? Kind.DIFFER_FROM_SETTLED : Kind.TEXTS_REPLACED;
                    default -> mine.text().isEmpty() ? Kind.TEXTS_ADDED : Kind.TEXTS_REPLACED;
                };
        add(
                kind,
                entry.entryId().key(),
                text.tag(),
                mine.text().isEmpty() ? null : mine.text(),
                text.text(),
                becomes(text));
        boolean madeForIt = text.forNewSource() && text.effect() == TextEffect.PUT && mine.standing() != Standing.NONE;
        if (madeForIt && meaningMoves && entry.id() == lastRewritten) {
            forget(Kind.GO_STALE, entry.entryId().key(), text.tag());
        }
    }

    @Override
    public void shaped(RecordEntry entry, String theirs) {
        add(Kind.OTHER_SHAPE, entry.entryId().key(), null, entry.source(), theirs, null);
    }

    @Override
    public void emptied(RecordEntry entry, LanguageTag language, RecordCell mine) {
        add(Kind.EMPTIED_IN_FILE, entry.entryId().key(), language, mine.text(), null, null);
    }

    @Override
    public void gone(RecordEntry entry, boolean known) {
        if (known) {
            add(Kind.GONE_FROM_FILE, entry.entryId().key(), null, entry.source(), null, null);
        }
    }

    @Override
    public void sourceless(FileEntry entry) {
        add(
                Kind.WITHOUT_SOURCE,
                entry.key(),
                null,
                null,
                String.join(" / ", entry.texts().stream().map(FileText::main).toList()),
                null);
    }

    private String becomes(Arriving text) {
        return text.effect() == TextEffect.OFFER
                ? "offered"
                : arrivals.get(text.tag()) == Arrival.PENCILLED ? "pencilled" : "settled";
    }

    /** The text that comes with the rewritten source belongs to it; GO_STALE counted it when the source was met, just before. */
    private void forget(Kind kind, String key, LanguageTag tag) {
        counts.merge(kind, -1, Integer::sum);
        lines.getOrDefault(kind, new ArrayList<>())
                .removeIf(line -> line.key().equals(key) && tag.value().equals(line.language()));
    }

    private void touch(RecordEntry entry) {
        if (entry.id() != lastTouched) {
            touched++;
            lastTouched = entry.id();
        }
    }

    private void add(
            Kind kind,
            String key,
            @Nullable LanguageTag language,
            @Nullable String before,
            @Nullable String after,
            @Nullable String becomes) {
        counts.merge(kind, 1, Integer::sum);
        List<Line> shown = lines.computeIfAbsent(kind, k -> new ArrayList<>());
        if (shown.size() < PreviewReply.SHOWN) {
            shown.add(new Line(
                    key, language == null ? null : language.value(), shortened(before), shortened(after), becomes));
        }
    }

    private static @Nullable String shortened(@Nullable String text) {
        return text == null || text.length() <= LONGEST_SHOWN ? text : text.substring(0, LONGEST_SHOWN) + "\u2026";
    }

    private static String description(String section, String note, int maxLength) {
        return String.join(
                " \u00b7 ",
                List.of(section, note, maxLength == 0 ? "" : "limit " + maxLength).stream()
                        .filter(part -> !part.isEmpty())
                        .toList());
    }

    PreviewReply reply(CsvReading file) {
        List<Group> groups = new ArrayList<>();
        for (Kind kind : Kind.values()) {
            int count = counts.getOrDefault(kind, 0);
            if (count > 0) {
                groups.add(new Group(kind, count, lines.getOrDefault(kind, List.of())));
            }
        }
        return new PreviewReply(
                groups,
                met - touched,
                file.problems().stream().map(Problem::sentence).toList(),
                file.problemCount());
    }
}
