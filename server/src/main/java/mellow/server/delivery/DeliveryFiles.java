package mellow.server.delivery;

import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** The files of deliveries that are kept, with their contents. */
@Component
class DeliveryFiles {

    private static final JsonMapper JSON = JsonMapper.shared();

    private final JdbcClient jdbc;
    private final Contents contents;

    DeliveryFiles(JdbcClient jdbc, Contents contents) {
        this.jdbc = jdbc;
        this.contents = contents;
    }

    /** All files of a delivery by their paths. */
    List<Packing.Packed> of(long delivery) {
        return jdbc.sql(
                        """
                        select f.path, f.hash, c.bytes from delivery_file f join delivered c on c.hash = f.hash
                        where f.delivery_id = :id order by f.path collate "C"
                        """)
                .param("id", delivery)
                .query((row, n) -> {
                    byte[] hash = row.getBytes(2);
                    return new Packing.Packed(
                            row.getString(1), Packing.hex(hash), row.getLong(3), () -> contents.open(hash));
                })
                .list();
    }

    /** What its manifest says. */
    byte[] manifest(long delivery, List<Packing.Packed> files) {
        return jdbc.sql(
                        "select p.slug, d.languages from delivery d join product p on p.id = d.product_id where d.id = :id")
                .param("id", delivery)
                .query((row, n) -> Packing.manifest(
                        row.getString(1),
                        List.of(JSON.readValue(row.getString(2), Judge.LanguageVerdict[].class)),
                        files))
                .single();
    }
}
