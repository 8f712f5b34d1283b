package mellow.server.cell;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import mellow.core.cell.CellWas;
import mellow.core.cell.CellWas.OfferWas;
import mellow.core.cell.Standing;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** How a cell was before a change, as a story line keeps it. */
final class WasJson {

    private static final JsonMapper JSON = JsonMapper.shared();

    private WasJson() {}

    private record Was(
            @Nullable Map<String, String> forms, Standing standing, int basedOn, int textAt, List<OfferWas> offers) {}

    static String write(CellWas was) {
        return JSON.writeValueAsString(new Was(
                was.text().map(Text::forms).orElse(null), was.standing(), was.basedOn(), was.textAt(), was.offers()));
    }

    static CellWas read(String json) {
        Was was = JSON.readValue(json, Was.class);
        return new CellWas(
                Optional.ofNullable(was.forms()).map(forms -> new Text(new TreeMap<>(forms))),
                was.standing(),
                was.basedOn(),
                was.textAt(),
                was.offers());
    }
}
