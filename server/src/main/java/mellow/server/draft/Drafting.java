package mellow.server.draft;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletionService;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorCompletionService;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import mellow.core.draft.ProtectedText;
import mellow.core.draft.ProtectedText.Restored;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Keepable;
import mellow.core.wordbook.TermFinder;
import mellow.server.common.Refusal;
import mellow.server.draft.DraftClient.Answered;
import mellow.server.draft.DraftClient.Question;
import mellow.server.draft.DraftClient.Sent;
import mellow.server.draft.DraftClient.SentTerm;
import mellow.server.draft.DraftServices.Asked;
import mellow.server.draft.DraftServices.Reserved;
import mellow.server.wordbook.WordbookService;
import org.springframework.stereotype.Service;

/** Has texts drafted: hides their placeholders, keeps to what a service may be sent, asks it, and takes what came back whole. */
@Service
public class Drafting {

    private static final String WITHHELD = "The texts of its table may not leave.";
    private static final String NO_MARKS = "A message with branches is not drafted.";
    private static final String NO_WORDS = "There is no word in it.";
    private static final String BUDGET = "The service may be sent no more today or this month.";

    private final DraftServices services;
    private final DraftClient client;
    private final WordbookService wordbook;

    Drafting(DraftServices services, DraftClient client, WordbookService wordbook) {
        this.services = services;
        this.client = client;
        this.wordbook = wordbook;
    }

    /**
     * A text that a draft is wanted for.
     *
     * @param syntaxes of its table's placeholders
     * @param maxLength in characters, 0 for any
     */
    public record ToDraft(
            long entry,
            long table,
            LanguageTag from,
            String source,
            String context,
            String note,
            int maxLength,
            Placeholders syntaxes) {}

    /**
     * What came of one.
     *
     * @param text empty where none could be taken
     * @param failure why, empty otherwise
     */
    public record Draft(long entry, String text, String failure) {

        static Draft failed(ToDraft one, String sentence) {
            return new Draft(one.entry, "", sentence);
        }
    }

    /**
     * What drafting would be.
     *
     * @param texts that would be sent
     * @param characters of their sources, marks included
     * @param left characters that the service may still be sent, before them
     * @param withheld texts of tables that may not leave
     * @param unfit messages with branches, and what has no words
     */
    public record DraftPlan(int texts, long characters, long left, int withheld, int unfit) {}

    private record Ready(ToDraft of, ProtectedText text) {}

    /** Texts that can be sent, and what stands against the others. */
    private record Sorted(List<Ready> ready, List<Draft> withheld, List<Draft> unfit) {

        static Sorted of(List<ToDraft> wanted, Asked service) {
            Sorted sorted = new Sorted(new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
            for (ToDraft one : wanted) {
                ProtectedText text = ProtectedText.of(one.source, one.syntaxes).orElse(null);
                if (service.withheld().contains(one.table)) {
                    sorted.withheld.add(Draft.failed(one, WITHHELD));
                } else if (text == null) {
                    sorted.unfit.add(Draft.failed(one, NO_MARKS));
                } else if (!text.hasWords()) {
                    sorted.unfit.add(Draft.failed(one, NO_WORDS));
                } else {
                    sorted.ready.add(new Ready(one, text));
                }
            }
            return sorted;
        }
    }

    /** What asking a service for these would be; asks nothing. */
    public DraftPlan plan(long service, List<ToDraft> wanted) {
        Asked asked = services.find(service);
        Sorted sorted = Sorted.of(wanted, asked);
        return new DraftPlan(
                sorted.ready.size(),
                sorted.ready.stream().mapToLong(one -> one.text.text().length()).sum(),
                asked.left(),
                sorted.withheld.size(),
                sorted.unfit.size());
    }

    /** The number of the service that is asked where none is named, by whoever may change texts of a language. */
    public long usual(LanguageTag language) {
        return services.first(language)
                .orElseThrow(() -> Refusal.unacceptable(
                        "no-draft-service",
                        "No drafting service is kept for {language}.",
                        Map.of("language", language.value())))
                .reply()
                .id();
    }

    /**
     * Refuses a service that drafts no texts in a language, or that the server may not speak to.
     *
     * @throws Refusal 404 when there is none of that number, 422 when it does not
     */
    public void require(long service, LanguageTag language) {
        Asked asked = services.find(service);
        if (!asked.drafts(language)) {
            throw Refusal.unacceptable(
                    "service-language",
                    "{service} drafts no texts in {language}.",
                    Map.of("service", asked.reply().settings().name(), "language", language.value()));
        }
        services.requireAllowed(asked);
    }

    /**
     * Has texts drafted, in no transaction that it needs: each request's drafts are handed over as they come, in the thread that calls.
     *
     * @param took is given them; what it throws ends the drafting
     */
    public void draft(long service, LanguageTag to, List<ToDraft> wanted, Consumer<List<Draft>> took) {
        require(service, to);
        Asked asked = services.find(service);
        String secret = services.secretOf(asked);
        Sorted sorted = Sorted.of(wanted, asked);
        took.accept(sorted.withheld);
        took.accept(sorted.unfit);
        Map<LanguageTag, List<Ready>> ready = sorted.ready.stream().collect(Collectors.groupingBy(one -> one.of.from));
        ExecutorService threads = Executors.newFixedThreadPool(
                asked.reply().settings().requestsAtOnce(), work -> new Thread(work, "drafting"));
        try {
            CompletionService<List<Draft>> answers = new ExecutorCompletionService<>(threads);
            int requests = 0;
            for (Map.Entry<LanguageTag, List<Ready>> of : ready.entrySet()) {
                TermFinder terms = TermFinder.of(
                        wordbook.agreed(of.getKey(), to),
                        Locale.forLanguageTag(of.getKey().value()));
                int atOnce = asked.reply().settings().textsAtOnce();
                for (int from = 0; from < of.getValue().size(); from += atOnce) {
                    List<Ready> some =
                            of.getValue().subList(from, Math.min(of.getValue().size(), from + atOnce));
                    answers.submit(() -> ask(asked, secret, of.getKey(), to, some, terms));
                    requests++;
                }
            }
            for (; requests > 0; requests--) {
                took.accept(answers.take().get());
            }
        } catch (InterruptedException ending) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("the server ends", ending);
        } catch (ExecutionException failed) {
            throw failed.getCause() instanceof RuntimeException cause
                    ? cause
                    : new IllegalStateException(failed.getCause());
        } finally {
            threads.shutdownNow();
        }
    }

    private List<Draft> ask(
            Asked service, String secret, LanguageTag from, LanguageTag to, List<Ready> wanted, TermFinder terms)
            throws InterruptedException {
        long id = service.reply().id();
        List<Draft> drafts = new ArrayList<>();
        // As it is kept now: a fill takes minutes, and a table may be withheld meanwhile.
        Set<Long> withheld = services.find(id).withheld();
        List<Ready> free = new ArrayList<>();
        for (Ready one : wanted) {
            if (withheld.contains(one.of.table)) {
                drafts.add(Draft.failed(one.of, WITHHELD));
            } else {
                free.add(one);
            }
        }
        Reserved reserved = services.reserve(
                id, free.stream().map(one -> one.text.text().length()).toList());
        free.subList(reserved.texts(), free.size()).forEach(one -> drafts.add(Draft.failed(one.of, BUDGET)));
        List<Ready> sent = free.subList(0, reserved.texts());
        if (sent.isEmpty()) {
            return drafts;
        }
        Answered answered = client.ask(
                service,
                secret,
                new Question(
                        from.value(),
                        to.value(),
                        sent.stream().map(one -> sent(one, terms)).toList()));
        if (answered.unsent()) {
            services.giveBack(id, reserved);
        }
        sent.forEach(one -> drafts.add(draft(one, answered)));
        return drafts;
    }

    private static Sent sent(Ready one, TermFinder terms) {
        return new Sent(
                Long.toString(one.of.entry),
                one.text.text(),
                one.text.marks(),
                one.of.context,
                one.of.note,
                one.of.maxLength,
                terms.in(one.of.source).stream()
                        .map(term -> new SentTerm(term.term(), term.text(), term.avoid()))
                        .toList());
    }

    private static Draft draft(Ready one, Answered answered) {
        if (!answered.failure().isEmpty()) {
            return Draft.failed(one.of, answered.failure());
        }
        DraftAnswer.One draft = answered.drafts().get(Long.toString(one.of.entry));
        if (draft == null) {
            return Draft.failed(one.of, "It gave no answer for this text.");
        }
        if (draft.text().isBlank()) {
            return Draft.failed(one.of, draft.failure().isEmpty() ? "Its draft is empty." : draft.failure());
        }
        Restored restored = one.text.restore(draft.text());
        if (restored instanceof Restored.Whole whole) {
            return Keepable.against(whole.text(), Keepable.LONGEST)
                    .map(why -> Draft.failed(one.of, "Its draft " + why + "."))
                    .orElseGet(() -> new Draft(one.of.entry, whole.text(), ""));
        }
        Restored.Damaged damaged = (Restored.Damaged) restored;
        String became =
                switch (damaged.damage()) {
                    case LOST -> "got lost";
                    case DOUBLED -> "is there twice";
                    case MADE_UP -> "was not in the text";
                };
        return Draft.failed(one.of, "The mark " + damaged.mark() + " " + became + ".");
    }
}
