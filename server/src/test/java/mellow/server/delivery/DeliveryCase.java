package mellow.server.delivery;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import mellow.server.product.ProductService;
import mellow.server.support.ServerTest;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.transaction.support.TransactionTemplate;

/** What tests of what products get have in common. */
abstract class DeliveryCase extends ServerTest {

    @Autowired
    protected Deliveries port;

    @Autowired
    protected DeliveryService deliveries;

    @Autowired
    protected DeliveryFiles files;

    @Autowired
    protected Recipes recipes;

    @Autowired
    protected ProductService products;

    @Autowired
    private TransactionTemplate transaction;

    /** Delivers, and reads what was delivered, by path. */
    protected Map<String, byte[]> delivered(long person, String product) {
        transaction.executeWithoutResult(status -> port.deliver(person, product));
        return content(
                product, deliveries.history(product, Integer.MAX_VALUE).get(0).number());
    }

    /** The files of a delivery by path. */
    protected Map<String, byte[]> content(String product, int number) {
        Map<String, byte[]> content = new LinkedHashMap<>();
        for (Packing.Packed file : files.of(deliveries.found(product, number).id())) {
            try (InputStream in = file.content().open()) {
                content.put(file.path(), in.readAllBytes());
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }
        return content;
    }

    /** The same as texts. */
    protected Map<String, String> deliveredTexts(long person, String product) {
        Map<String, String> texts = new LinkedHashMap<>();
        delivered(person, product).forEach((path, bytes) -> texts.put(path, new String(bytes, StandardCharsets.UTF_8)));
        return texts;
    }
}
