package mellow.core.scan;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.scan.Habit.Attribute;
import mellow.core.scan.Habit.Call;
import mellow.core.scan.Habit.Comment;
import mellow.core.scan.Habit.Mark;
import mellow.core.scan.Habit.Resource;
import mellow.core.scan.Tokens.Kind;

/** Finds the keys that a file uses by the habits of a product: goes over its tokens once and asks those who know each kind of habit. */
final class KeyFinder {

    private final Tokens tokens;
    private final CallFinder inCode;
    private final MarkupKeys inMarkup;
    private final MarkFinder marks;

    /** Looks through a file; adds what it finds to {@code uses} and the tokens that belong to it to {@code taken}. */
    KeyFinder(Source source, List<KeyUse> uses, BitSet taken) {
        FoundKeys found = new FoundKeys(source, uses, taken);
        Arguments arguments = new Arguments(source);
        this.tokens = source.tokens();
        this.inCode = new CallFinder(source, arguments, found);
        this.inMarkup = new MarkupKeys(source, arguments, found);
        this.marks = new MarkFinder(source, found);
    }

    void find(List<Habit> habits) {
        Map<String, List<Call>> calls = new HashMap<>();
        Set<String> attributes = new HashSet<>();
        List<Resource> resources = new ArrayList<>();
        List<Mark> wanted = new ArrayList<>();
        List<String> words = new ArrayList<>();
        for (Habit habit : habits) {
            if (habit instanceof Call call) {
                call.functions().forEach(name -> calls.computeIfAbsent(
                                name.substring(name.lastIndexOf('.') + 1), none -> new ArrayList<>())
                        .add(call));
            } else if (habit instanceof Attribute attribute) {
                attributes.addAll(attribute.names());
            } else if (habit instanceof Resource resource) {
                resources.add(resource);
            } else if (habit instanceof Mark mark) {
                wanted.add(mark);
            } else if (habit instanceof Comment comment) {
                words.add(comment.word());
            }
        }
        String tag = "";
        for (int at = 0; at < tokens.size(); at++) {
            Kind kind = tokens.kind(at);
            if (kind == Kind.WORD) {
                String word = tokens.spelled(at);
                inCode.call(at, word, calls);
                for (Resource resource : resources) {
                    inCode.resource(at, word, resource);
                }
            } else if (kind == Kind.TAG) {
                tag = tokens.spelled(at).substring(1);
            } else if (kind == Kind.ATTRIBUTE) {
                inMarkup.attribute(at, tag, attributes);
            } else if (kind == Kind.COMMENT && !words.isEmpty()) {
                inMarkup.comment(at, words);
            } else if (kind == Kind.STRING || kind == Kind.TEXT) {
                for (Resource resource : resources) {
                    inMarkup.reference(at, resource);
                }
            }
        }
        for (Mark mark : wanted) {
            marks.find(mark);
        }
    }
}
