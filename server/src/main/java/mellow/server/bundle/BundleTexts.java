package mellow.server.bundle;

import java.util.Map;
import java.util.Optional;
import mellow.core.bundle.BundleText;
import mellow.core.language.LanguageTag;
import mellow.server.delivery.DeliveredTexts;
import mellow.server.delivery.DeliveredTexts.Snapshot;
import mellow.server.replica.Replica;
import org.springframework.stereotype.Component;

/** The texts that bundles are made of, from the replica where it has them. Who may ask, and which delivery is the last, is asked of the database itself. */
@Component
class BundleTexts {

    private final DeliveredTexts delivered;
    private final Replica replica;

    BundleTexts(DeliveredTexts delivered, Replica replica) {
        this.delivered = delivered;
        this.replica = replica;
    }

    /** What was in force in a language when it was delivered, by entry. */
    Map<Long, BundleText> of(Snapshot delivery, LanguageTag language) {
        return replica.read(() ->
                        delivered.has(delivery) ? Optional.of(delivered.texts(delivery, language)) : Optional.empty())
                .orElseGet(() -> delivered.texts(delivery, language));
    }

    /** What would be in force in a language now, by entry; with what is only offered, where asked. */
    Map<Long, BundleText> now(String slug, LanguageTag language, boolean offers) {
        return replica.readAsItStands(() -> delivered.now(slug, language, offers))
                .orElseGet(() -> delivered.now(slug, language, offers));
    }
}
