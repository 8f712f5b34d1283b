package mellow.server.wordbook;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.text.Keepable;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.people.PeopleService;
import mellow.server.wordbook.TermsBrought.Brought;
import mellow.server.wordbook.WordbookService.Term;
import mellow.server.wordbook.WordbookService.TermText;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Takes wordbooks in from files, TBX or tables, and writes them out. What is agreed here is never replaced by a file. */
@Service
public class TermFiles {

    private static final int LONGEST_TERM = 200;
    private static final int LONGEST_NOTE = 2_000;
    private static final int MOST_TOLD = 50;
    private static final Set<String> FORMATS = Set.of("tbx", "csv");

    /** As core writes and reads words that are not to be used. */
    private static final Pattern AVOID = Pattern.compile("Avoid in ([A-Za-z0-9-]+): (.+)");

    private static final TermText NOTHING = new TermText("", List.of());
    private static final int MOST_AVOIDED = 50;

    private final TermsBrought terms;
    private final TermRows rows;
    private final PeopleService people;
    private final TextRules texts;

    TermFiles(TermsBrought terms, TermRows rows, PeopleService people, TextRules texts) {
        this.terms = terms;
        this.rows = rows;
        this.people = people;
        this.texts = texts;
    }

    /**
     * What a file brought.
     *
     * @param terms in it
     * @param added that were not there
     * @param filled that were there and are called something in more languages now
     * @param told what the file says otherwise than the wordbook, which stays, and what could not be taken; the first of it
     */
    public record TermsTaken(int terms, int added, int filled, List<String> told) {}

    /** Refuses who may not take wordbooks in. */
    void requireMayTake(long person) {
        people.rights(person).requireCoordinator("take wordbooks in");
    }

    /** Takes a file in: all of it or, where it cannot be read, nothing. */
    @Transactional
    public TermsTaken take(long person, String name, byte[] content) {
        requireMayTake(person);
        FileReading reading = Formats.read(name, content, ReadOptions.AUTOMATIC);
        texts.require(name, reading);
        List<LanguageTag> languages = reading.languages();
        LanguageTag from = reading.sourceLanguage()
                .or(() -> languages.stream().findFirst())
                .orElseThrow(() -> Refusal.unacceptable(
                        "no-terms",
                        "{file} names no language; expected one for each column of words.",
                        Map.of("file", name)));
        Map<String, Term> known = rows.all().stream()
                .filter(term -> term.source().equals(from.value()))
                .collect(Collectors.toMap(term -> key(term.term()), term -> term, (one, other) -> one));
        Taken taken = new Taken(from, known);
        for (int i = 0; i < reading.size(); i++) {
            taken.take(reading.entry(i), languages);
        }
        if (taken.terms == 0) {
            throw Refusal.unacceptable(
                    "no-terms", "{file} has no word in {language}.", Map.of("file", name, "language", from.value()));
        }
        List<Brought> brought = taken.brought();
        terms.bring(person, from, brought);
        int added = (int) brought.stream().filter(one -> one.id() == null).count();
        return new TermsTaken(taken.terms, added, brought.size() - added, List.copyOf(taken.told));
    }

    private static String key(String term) {
        return term.strip().toLowerCase(Locale.ROOT);
    }

    /** A term as the file and the wordbook have it together. */
    private record Together(
            @Nullable Long id, String term, String note, Map<String, TermText> texts, Set<String> changed) {

        static Together of(Term there) {
            return new Together(
                    there.id(), there.term(), there.note(), new LinkedHashMap<>(there.texts()), new LinkedHashSet<>());
        }

        Brought brought() {
            Map<String, TermText> said = new LinkedHashMap<>();
            changed.forEach(tag -> said.put(tag, Objects.requireNonNull(texts.get(tag))));
            return new Brought(id, term, note, said);
        }
    }

    /** Lays what a file says beside what is there. */
    private static final class Taken {
        private final LanguageTag from;
        private final Map<String, Term> known;
        private final Map<String, Together> together = new LinkedHashMap<>();
        private final List<String> told = new ArrayList<>();
        private int terms;

        Taken(LanguageTag from, Map<String, Term> known) {
            this.from = from;
            this.known = known;
        }

        List<Brought> brought() {
            return together.values().stream()
                    .filter(one -> one.id == null || !one.changed.isEmpty())
                    .map(Together::brought)
                    .toList();
        }

        private void tell(String sentence) {
            if (told.size() < MOST_TOLD) {
                told.add(sentence);
            }
        }

        void take(FileEntry entry, List<LanguageTag> languages) {
            String term = entry.text(languages.indexOf(from)).strip();
            if (term.isEmpty()) {
                return;
            }
            terms++;
            if (term.length() > LONGEST_TERM) {
                tell("A term of " + term.length() + " characters was left out: " + Keepable.shown(term, 40));
                return;
            }
            List<String> notes = new ArrayList<>();
            List<Matcher> avoided = new ArrayList<>();
            // A table has all notes of an entry in one cell, a line each.
            entry.notes().stream().flatMap(String::lines).forEach(note -> {
                Matcher avoid = AVOID.matcher(note);
                if (avoid.matches() && LanguageTag.parse(avoid.group(1)).isPresent()) {
                    avoided.add(avoid);
                } else {
                    notes.add(note);
                }
            });
            Together own = together.computeIfAbsent(key(term), key -> {
                Term there = known.get(key);
                String note = String.join("\n", notes);
                return there != null
                        ? Together.of(there)
                        : new Together(
                                null,
                                term,
                                note.substring(0, Math.min(note.length(), LONGEST_NOTE)),
                                new LinkedHashMap<>(),
                                new LinkedHashSet<>());
            });
            for (int i = 0; i < languages.size(); i++) {
                say(own, languages.get(i), entry.text(i).strip());
            }
            avoided.forEach(avoid -> avoid(
                    own,
                    LanguageTag.parse(avoid.group(1)).orElseThrow(),
                    avoid.group(2).strip()));
        }

        private void say(Together own, LanguageTag language, String text) {
            if (language.equals(from) || text.isEmpty() || text.length() > LONGEST_TERM) {
                return;
            }
            TermText has = own.texts.getOrDefault(language.value(), NOTHING);
            if (has.text().isEmpty()) {
                put(own, language, new TermText(text, has.avoid()));
            } else if (!has.text().equals(text)) {
                tell(own.term + ", " + language + ": the file says “" + text + "”, and “" + has.text() + "” stays.");
            }
        }

        private static void avoid(Together own, LanguageTag language, String word) {
            TermText has = own.texts.getOrDefault(language.value(), NOTHING);
            if (!word.isEmpty()
                    && word.length() <= LONGEST_TERM
                    && !has.avoid().contains(word)
                    && has.avoid().size() < MOST_AVOIDED) {
                put(
                        own,
                        language,
                        new TermText(
                                has.text(),
                                Stream.concat(has.avoid().stream(), Stream.of(word))
                                        .toList()));
            }
        }

        private static void put(Together own, LanguageTag language, TermText text) {
            own.texts.put(language.value(), text);
            own.changed.add(language.value());
        }
    }

    /** Writes all agreed terms of the language that most are words of, in the languages that who asks may read. */
    @Transactional(readOnly = true)
    public void write(String format, OutputStream to) {
        FileFormat as =
                FORMATS.contains(format) ? Formats.forNew("words." + format).orElseThrow() : unknown();
        List<Term> terms = rows.all().stream()
                .filter(term -> term.sense().status().equals("agreed"))
                .toList();
        Map<String, Long> often = terms.stream().collect(Collectors.groupingBy(Term::source, Collectors.counting()));
        LanguageTag from = new LanguageTag(often.entrySet().stream()
                .max(Map.Entry.comparingByValue())
                .map(Map.Entry::getKey)
                .orElse("en"));
        List<LanguageTag> languages = new ArrayList<>(List.of(from));
        terms.stream()
                .flatMap(term -> term.texts().keySet().stream())
                .distinct()
                .sorted()
                .map(LanguageTag::new)
                .filter(tag -> !tag.equals(from))
                .forEach(languages::add);
        List<FileEntry> entries = new ArrayList<>();
        for (Term term : terms) {
            if (!term.source().equals(from.value())) {
                continue;
            }
            FileEntry.Builder entry = FileEntry.of(term.term());
            if (!term.note().isEmpty()) {
                entry.note(term.note());
            }
            term.texts()
                    .forEach((tag, text) -> text.avoid().forEach(word -> entry.note("Avoid in " + tag + ": " + word)));
            entry.texts(languages.stream()
                    .map(tag -> FileText.plain(
                            tag.equals(from)
                                    ? term.term()
                                    : Optional.ofNullable(term.texts().get(tag.value()))
                                            .map(TermText::text)
                                            .orElse("")))
                    .toList());
            entries.add(entry.build());
        }
        try {
            as.write(EntryList.of(Optional.of(from), languages, entries), to);
        } catch (IOException gone) {
            throw new UncheckedIOException(gone);
        }
    }

    private static FileFormat unknown() {
        throw Refusal.notFound("no-such-format", "Wordbooks are written as tbx or csv.");
    }
}
