package mellow.core.format.po;

import java.util.List;
import java.util.function.IntToLongFunction;
import java.util.function.IntUnaryOperator;

/**
 * The {@code plural=} part of a Plural-Forms header: an expression of C over {@code n} with {@code ?: || && == != < <= > >= + - * / % !} and
 * brackets. Parsed by recursive descent; nesting is limited.
 */
final class PluralExpression {

    private static final int DEEPEST = 100;

    private final String text;
    private final IntToLongFunction value;
    private int at;
    private int depth;

    private PluralExpression(String text) {
        this.text = text;
        this.value = conditional();
        skip();
        if (at < text.length()) {
            throw new IllegalArgumentException("“" + text.substring(at) + "” after the expression");
        }
    }

    /**
     * Reads an expression.
     *
     * @throws IllegalArgumentException saying what is wrong with it
     */
    static IntUnaryOperator parse(String text) {
        IntToLongFunction value = new PluralExpression(text).value;
        return n -> (int) Math.max(Math.min(value.applyAsLong(n), Integer.MAX_VALUE), Integer.MIN_VALUE);
    }

    private IntToLongFunction conditional() {
        if (++depth > DEEPEST) {
            throw new IllegalArgumentException("an expression nested deeper than " + DEEPEST);
        }
        IntToLongFunction condition = level(0);
        if (!take("?")) {
            depth--;
            return condition;
        }
        IntToLongFunction yes = conditional();
        if (!take(":")) {
            throw new IllegalArgumentException("“?” without “:”");
        }
        IntToLongFunction no = conditional();
        depth--;
        return n -> condition.applyAsLong(n) != 0 ? yes.applyAsLong(n) : no.applyAsLong(n);
    }

    /** Operators from the loosest; longer spellings first within a level. */
    private static final List<List<String>> LEVELS = List.of(
            List.of("||"),
            List.of("&&"),
            List.of("==", "!="),
            List.of("<=", ">=", "<", ">"),
            List.of("+", "-"),
            List.of("*", "/", "%"));

    private IntToLongFunction level(int level) {
        if (level == LEVELS.size()) {
            return unary();
        }
        IntToLongFunction left = level(level + 1);
        while (true) {
            String operator = takeAny(LEVELS.get(level));
            if (operator.isEmpty()) {
                return left;
            }
            left = apply(operator, left, level(level + 1));
        }
    }

    private static IntToLongFunction apply(String operator, IntToLongFunction a, IntToLongFunction b) {
        return switch (operator) {
            case "||" -> n -> a.applyAsLong(n) != 0 || b.applyAsLong(n) != 0 ? 1 : 0;
            case "&&" -> n -> a.applyAsLong(n) != 0 && b.applyAsLong(n) != 0 ? 1 : 0;
            case "==" -> n -> a.applyAsLong(n) == b.applyAsLong(n) ? 1 : 0;
            case "!=" -> n -> a.applyAsLong(n) != b.applyAsLong(n) ? 1 : 0;
            case "<=" -> n -> a.applyAsLong(n) <= b.applyAsLong(n) ? 1 : 0;
            case ">=" -> n -> a.applyAsLong(n) >= b.applyAsLong(n) ? 1 : 0;
            case "<" -> n -> a.applyAsLong(n) < b.applyAsLong(n) ? 1 : 0;
            case ">" -> n -> a.applyAsLong(n) > b.applyAsLong(n) ? 1 : 0;
            case "+" -> n -> a.applyAsLong(n) + b.applyAsLong(n);
            case "-" -> n -> a.applyAsLong(n) - b.applyAsLong(n);
            case "*" -> n -> a.applyAsLong(n) * b.applyAsLong(n);
            case "/" -> n -> b.applyAsLong(n) == 0 ? -1 : a.applyAsLong(n) / b.applyAsLong(n);
            default -> n -> b.applyAsLong(n) == 0 ? -1 : a.applyAsLong(n) % b.applyAsLong(n);
        };
    }

    private IntToLongFunction unary() {
        skip();
        int not = 0;
        while (at < text.length() && text.charAt(at) == '!') {
            at++;
            not++;
            skip();
        }
        IntToLongFunction inner = primary();
        if (not == 0) {
            return inner;
        }
        boolean odd = not % 2 == 1;
        return n -> (inner.applyAsLong(n) == 0) == odd ? 1 : 0;
    }

    private IntToLongFunction primary() {
        skip();
        if (take("(")) {
            IntToLongFunction inner = conditional();
            if (!take(")")) {
                throw new IllegalArgumentException("“(” without “)”");
            }
            return inner;
        }
        if (take("n")) {
            return n -> n;
        }
        int start = at;
        while (at < text.length() && text.charAt(at) >= '0' && text.charAt(at) <= '9' && at - start < 9) {
            at++;
        }
        if (start == at) {
            throw new IllegalArgumentException(
                    at < text.length()
                            ? "“" + text.charAt(at) + "” where a value is needed"
                            : "an expression that ends early");
        }
        long number = Long.parseLong(text.substring(start, at));
        return n -> number;
    }

    private boolean take(String token) {
        skip();
        if (text.startsWith(token, at)) {
            at += token.length();
            return true;
        }
        return false;
    }

    private String takeAny(List<String> tokens) {
        for (String token : tokens) {
            if (take(token)) {
                return token;
            }
        }
        return "";
    }

    private void skip() {
        while (at < text.length() && text.charAt(at) <= ' ') {
            at++;
        }
    }
}
