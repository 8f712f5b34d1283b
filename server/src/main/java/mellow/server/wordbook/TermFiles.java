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
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.people.PeopleService;
import mellow.server.wordbook.WordbookService.Term;
import mellow.server.wordbook.WordbookService.TermText;
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

    private final WordbookService wordbook;
    private final TermRows rows;
    private final PeopleService people;
    private final TextRules texts;

    TermFiles(WordbookService wordbook, TermRows rows, PeopleService people, TextRules texts) {
        this.wordbook = wordbook;
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
        Taken taken = new Taken(person, from);
        for (int i = 0; i < reading.size(); i++) {
            taken.take(reading.entry(i), languages, known);
        }
        if (taken.terms == 0) {
            throw Refusal.unacceptable(
                    "no-terms", "{file} has no word in {language}.", Map.of("file", name, "language", from.value()));
        }
        return new TermsTaken(taken.terms, taken.added, taken.filled, List.copyOf(taken.told));
    }

    private static String key(String term) {
        return term.strip().toLowerCase(Locale.ROOT);
    }

    private final class Taken {
        private final long person;
        private final LanguageTag from;
        private final List<String> told = new ArrayList<>();
        private int terms;
        private int added;
        private int filled;

        Taken(long person, LanguageTag from) {
            this.person = person;
            this.from = from;
        }

        private void tell(String sentence) {
            if (told.size() < MOST_TOLD) {
                told.add(sentence);
            }
        }

        void take(FileEntry entry, List<LanguageTag> languages, Map<String, Term> known) {
            String term = entry.text(languages.indexOf(from)).strip();
            if (term.isEmpty()) {
                return;
            }
            terms++;
            if (term.length() > LONGEST_TERM) {
                tell("A term of " + term.length() + " characters was left out: " + term.substring(0, 40) + "…");
                return;
            }
            Map<String, TermText> says = new LinkedHashMap<>();
            for (int i = 0; i < languages.size(); i++) {
                String text = entry.text(i).strip();
                if (!languages.get(i).equals(from) && !text.isEmpty() && text.length() <= LONGEST_TERM) {
                    says.put(languages.get(i).value(), new TermText(text, List.of()));
                }
            }
            List<String> notes = new ArrayList<>();
            // A table has all notes of an entry in one cell, a line each.
            for (String note : entry.notes().stream().flatMap(String::lines).toList()) {
                Matcher avoid = AVOID.matcher(note);
                Optional<LanguageTag> in = avoid.matches() ? LanguageTag.parse(avoid.group(1)) : Optional.empty();
                if (in.isPresent() && !in.get().equals(from)) {
                    String tag = in.get().value();
                    TermText said = says.getOrDefault(tag, new TermText("", List.of()));
                    Set<String> all = new LinkedHashSet<>(said.avoid());
                    all.add(avoid.group(2));
                    says.put(tag, new TermText(said.text(), List.copyOf(all)));
                } else {
                    notes.add(note);
                }
            }
            Term there = known.get(key(term));
            if (there == null) {
                String note = String.join("\n", notes);
                long id = wordbook.add(
                        person, from.value(), term, note.substring(0, Math.min(note.length(), LONGEST_NOTE)), says);
                known.put(key(term), rows.one(id).orElseThrow());
                added++;
            } else {
                fill(there, says, known);
            }
        }

        private void fill(Term there, Map<String, TermText> says, Map<String, Term> known) {
            Map<String, TermText> more = new LinkedHashMap<>();
            says.forEach((tag, text) -> {
                TermText has = there.texts().getOrDefault(tag, new TermText("", List.of()));
                boolean differs = !has.text().isEmpty()
                        && !text.text().isEmpty()
                        && !has.text().equals(text.text());
                if (differs) {
                    tell(there.term() + ", " + tag + ": the file says “" + text.text() + "”, and “" + has.text()
                            + "” stays.");
                }
                Set<String> avoid = new LinkedHashSet<>(has.avoid());
                avoid.addAll(text.avoid());
                String kept = has.text().isEmpty() ? text.text() : has.text();
                if (!kept.equals(has.text()) || avoid.size() > has.avoid().size()) {
                    more.put(tag, new TermText(kept, List.copyOf(avoid), has.forms(), null, null));
                }
            });
            if (!more.isEmpty()) {
                wordbook.change(person, there.id(), there.version(), there.term(), there.note(), there.sense(), more);
                known.put(key(there.term()), rows.one(there.id()).orElseThrow());
                filled++;
            }
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
