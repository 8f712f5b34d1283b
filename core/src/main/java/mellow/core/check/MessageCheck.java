package mellow.core.check;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.placeholder.IcuMessage;
import mellow.core.placeholder.IcuMessage.Argument;

/** ICU messages (UTS #35 part 9, ICU's MessageFormat): broken ones, arguments that got lost, branches that the language needs. */
final class MessageCheck implements Check {

    @Override
    public void lookAt(Form form, Found found) {
        IcuMessage message = form.message();
        if (message == null) {
            return;
        }
        if (message.error() != null) {
            broken(form, message, found);
            return;
        }
        Map<String, Set<String>> asked = branches(IcuMessage.parse(form.source()));
        Map<String, Set<String>> given = branches(message);
        asked.forEach((argument, selectors) -> {
            String name = argument.substring(0, argument.indexOf(' '));
            Set<String> has = given.get(argument);
            if (has == null) {
                if (argument.endsWith(" ") && given.keySet().stream().anyMatch(one -> one.startsWith(name + " "))) {
                    return;
                }
                found.add(
                        "argument-lost",
                        form.name(),
                        "The argument {argument} is missing.",
                        Map.of("argument", "{" + argument.strip().replace(" ", ", ") + "}"));
            } else if (argument.endsWith(" plural") || argument.endsWith(" selectordinal")) {
                List<String> lacking = lacking(form.ground().facts(), has, argument.endsWith(" plural"));
                if (!lacking.isEmpty()) {
                    found.add(
                            "branches-missing",
                            form.name(),
                            "The argument “{argument}” has no branch {branches}.",
                            Map.of("argument", name, "branches", String.join(", ", lacking)));
                }
            } else if (argument.endsWith(" select") && !has.equals(selectors)) {
                found.add(
                        "branches-differ",
                        form.name(),
                        "The branches of “{argument}” are {branches}; a program chooses by these names, so they stay as they are.",
                        Map.of("argument", name, "branches", String.join(", ", selectors)));
            }
        });
        given.keySet().stream().filter(argument -> !asked.containsKey(argument)).forEach(argument -> {
            String name = argument.substring(0, argument.indexOf(' '));
            if (asked.keySet().stream().noneMatch(one -> one.startsWith(name + " "))) {
                found.add(
                        "argument-extra",
                        form.name(),
                        "The source has no argument “{argument}”.",
                        Map.of("argument", name));
            }
        });
    }

    @Override
    public void lookAtSource(Form source, Found found) {
        if (source.message() != null && source.message().error() != null) {
            broken(source, source.message(), found);
        }
    }

    private static void broken(Form form, IcuMessage message, Found found) {
        String text = form.text();
        int at = Math.min(message.errorAt(), text.length());
        found.add(
                "message-broken",
                form.name(),
                "The message cannot be read at character {at}: {error}.",
                Map.of("at", text.codePointCount(0, at) + 1, "error", message.error()),
                at,
                Math.min(text.length(), at + 1));
    }

    /** Arguments as "name type", each with all branches that it has anywhere. */
    private static Map<String, Set<String>> branches(IcuMessage message) {
        Map<String, Set<String>> branches = new HashMap<>();
        for (Argument argument : message.arguments()) {
            branches.computeIfAbsent(argument.name() + " " + argument.type(), one -> new LinkedHashSet<>())
                    .addAll(argument.selectors());
        }
        return branches;
    }

    /** Categories of the language without a branch; one that means a single number is met by that number ({@code =1}). */
    private static List<String> lacking(Facts facts, Set<String> has, boolean cardinal) {
        if (!cardinal) {
            return List.of();
        }
        Map<String, String> numbers = Map.of("zero", "=0", "one", "=1", "two", "=2");
        return facts.categories().stream()
                .filter(facts.required()::contains)
                .filter(category -> !has.contains(category))
                .filter(category ->
                        !(facts.exact().contains(category) && has.contains(numbers.getOrDefault(category, "="))))
                .toList();
    }
}
