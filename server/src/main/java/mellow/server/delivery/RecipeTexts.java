package mellow.server.delivery;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.cell.Standing;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.product.ProductLanguage;
import mellow.core.product.TextResolver;
import mellow.core.text.Shape;
import mellow.server.table.TableInfo;

/** What stands in files for the entries of one table, in some languages. */
final class RecipeTexts {
    private final Recipe.RecipeSettings settings;
    private final String hole;
    private final Maker.Order order;
    private final TableInfo table;
    private final List<ProductLanguage> in;
    private final List<TextResolver> resolvers;

    RecipeTexts(Recipe recipe, Maker.Order order, TableInfo table, List<ProductLanguage> in) {
        this(recipe, order, table, in, recipe.settings().hole());
    }

    /** The same with something else where a text is missing. */
    RecipeTexts(Recipe recipe, Maker.Order order, TableInfo table, List<ProductLanguage> in, String hole) {
        this.settings = recipe.settings();
        this.hole = hole;
        this.order = order;
        this.table = table;
        this.in = in;
        this.resolvers = in.stream()
                .map(one -> new TextResolver(order.product().languages(), one.tag(), table.source()))
                .toList();
    }

    List<LanguageTag> reads() {
        return resolvers.stream()
                .flatMap(one -> hole.equals("borrowed")
                        ? one.reads().stream()
                        : one.reads().stream().limit(1))
                .distinct()
                .toList();
    }

    /** Whether the newest offers are needed. */
    boolean offers() {
        return settings.offers();
    }

    /** The entry with a text for each language; empty where it has none at all and holes are left out. */
    Optional<FileEntry> entry(RecordEntry entry, FileKeys keys) {
        if (entry.shape() == Shape.ASSET) {
            // Files go out as files, by a recipe of their own.
            return Optional.empty();
        }
        List<FileText> texts = new ArrayList<>(in.size());
        boolean any = false;
        for (int i = 0; i < in.size(); i++) {
            FileText text = of(entry, i);
            any |= !text.isEmpty();
            texts.add(text);
        }
        return any || !hole.equals("out")
                ? Optional.of(keys.entry(entry).texts(texts).build())
                : Optional.empty();
    }

    /** What stands there for an entry in the language at {@code index}. */
    FileText of(RecordEntry entry, int index) {
        LanguageTag tag = in.get(index).tag();
        if (!entry.translatable() || tag.equals(table.source())) {
            return entry.source().in(FileState.SETTLED);
        }
        FileText own = inForce(entry, tag);
        if (!own.isEmpty()) {
            return own;
        }
        return switch (hole) {
            case "borrowed" -> {
                FileText near = resolvers
                        .get(index)
                        .of(other -> inForce(entry, other), entry.source(), true)
                        .text();
                yield near.isEmpty() ? keyOf(entry) : near.in(FileState.UNTRANSLATED);
            }
            case "source" ->
                entry.source().isEmpty() ? keyOf(entry) : entry.source().in(FileState.UNTRANSLATED);
            case "key" -> keyOf(entry);
            default -> FileText.NONE;
        };
    }

    private static FileText keyOf(RecordEntry entry) {
        return entry.shape() == Shape.ASSET
                ? FileText.NONE
                : FileText.plain(entry.entryId().key()).in(FileState.UNTRANSLATED);
    }

    private FileText inForce(RecordEntry entry, LanguageTag tag) {
        Map<Long, TextLine> former = order.former().get(tag);
        if (former != null) {
            TextLine line = former.get(entry.id());
            return line == null ? FileText.NONE : FileText.of(line.forms()).in(FileState.SETTLED);
        }
        RecordCell cell = entry.cell(tag);
        boolean settled = cell.standing() == Standing.SETTLED;
        boolean stands = !cell.text().isEmpty()
                && !(cell.stale() && (order.staleOut() || settings.texts().equals("fresh")))
                && !order.blocked().getOrDefault(tag, Set.of()).contains(entry.id());
        if (order.without().contains(tag)) {
            return FileText.NONE;
        }
        if (stands && settled) {
            return cell.text().in(FileState.SETTLED);
        }
        if (settings.offers() && !cell.ownOffer().isEmpty()) {
            return cell.ownOffer().in(FileState.OFFERED);
        }
        return stands && (settings.offers() || settings.texts().equals("pencilled"))
                ? cell.text().in(FileState.PENCILLED)
                : FileText.NONE;
    }
}
