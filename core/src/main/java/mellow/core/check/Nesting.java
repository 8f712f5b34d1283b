package mellow.core.check;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * How tags open and close.
 *
 * @param unclosed opened and never closed
 * @param stray closed and never opened
 * @param crossed whether a tag closes while one that was opened after it is open and closed later
 */
record Nesting(List<Tag> unclosed, List<Tag> stray, boolean crossed) {

    static Nesting of(List<Tag> tags) {
        Deque<Tag> open = new ArrayDeque<>();
        List<Tag> stray = new ArrayList<>();
        List<Tag> skipped = new ArrayList<>();
        Set<String> skippedNames = new HashSet<>();
        Map<String, Integer> openByName = new HashMap<>();
        boolean crossed = false;
        for (Tag tag : tags) {
            if (tag.single()) {
                continue;
            }
            if (!tag.closing()) {
                open.push(tag);
                openByName.merge(tag.name(), 1, Integer::sum);
            } else if (openByName.getOrDefault(tag.name(), 0) > 0) {
                while (!open.element().name().equals(tag.name())) {
                    Tag over = open.pop();
                    openByName.merge(over.name(), -1, Integer::sum);
                    skipped.add(over);
                    skippedNames.add(over.name());
                }
                open.pop();
                openByName.merge(tag.name(), -1, Integer::sum);
            } else {
                stray.add(tag);
                crossed |= skippedNames.contains(tag.name());
            }
        }
        List<Tag> unclosed = new ArrayList<>(skipped);
        unclosed.addAll(open);
        return new Nesting(unclosed, stray, crossed);
    }

    boolean sound() {
        return unclosed.isEmpty() && stray.isEmpty();
    }
}
