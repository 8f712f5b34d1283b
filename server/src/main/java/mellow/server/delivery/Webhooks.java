package mellow.server.delivery;

import java.net.URI;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.server.common.AllowedHosts;
import mellow.server.common.Refusal;
import mellow.server.common.Secrets;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import mellow.server.product.ProductService.ProductReply;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Programs that are told what was delivered and recalled. What they are to be told is noted in the transaction that does it, so none is forgotten. */
@Service
class Webhooks {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final int SECRET_BYTES = 32;
    private static final int MOST = 10;
    private static final int CALLS_TOLD = 5;
    private static final String DO = "say which programs are told";

    private final ProductService products;
    private final PeopleService people;
    private final JdbcClient jdbc;
    private final Clock clock;
    private final AllowedHosts hosts;

    Webhooks(
            ProductService products,
            PeopleService people,
            JdbcClient jdbc,
            Clock clock,
            @Value("${mellow.webhooks.hosts:}") Set<String> hosts) {
        this.products = products;
        this.people = people;
        this.jdbc = jdbc;
        this.clock = clock;
        this.hosts = new AllowedHosts(hosts);
    }

    /**
     * Something that a program was or will be told.
     *
     * @param event delivered or recalled
     * @param number of the delivery
     * @param attempts how often it was tried
     * @param nextAt when it is tried next, null when it was heard or given up
     * @param said what came of the last attempt, empty before the first
     */
    record WebhookCall(
            long id,
            String event,
            int number,
            int attempts,
            @Nullable Instant lastAt,
            @Nullable Instant nextAt,
            boolean heard,
            String said) {}

    /** A program that is told, with what it was told last, the newest first. */
    record Webhook(long id, String address, Instant madeAt, List<WebhookCall> calls) {}

    /**
     * Those of a product.
     *
     * @param hosts that this installation lets be told; none unless whoever starts the server names them
     */
    record WebhookDesk(List<String> hosts, List<Webhook> hooks) {}

    /** A program that is told from now on, and the secret that signs what it is told, which is not shown again. */
    record WebhookMade(long id, String secret) {}

    /** How many programs are told of a product, and to how many the last word did not get through yet. */
    record Telling(int hooks, int unheard) {}

    /** Those of a product. */
    @Transactional(readOnly = true)
    public WebhookDesk of(long person, String slug) {
        people.rights(person).requireCoordinator(DO);
        Map<Long, Webhook> hooks = new LinkedHashMap<>();
        jdbc.sql("select * from webhook where product_id = :product and removed_at is null order by id")
                .param("product", products.find(slug).id())
                .query(row -> {
                    hooks.put(
                            row.getLong("id"),
                            new Webhook(
                                    row.getLong("id"),
                                    row.getString("address"),
                                    row.getTimestamp("made_at").toInstant(),
                                    new ArrayList<>()));
                });
        jdbc.sql(
                        """
                        select h.id hook, c.*, d.number from unnest(:hooks::bigint[]) h(id)
                        cross join lateral (select * from webhook_call where webhook_id = h.id order by id desc limit :most) c
                        join delivery d on d.id = c.delivery_id order by c.id desc
                        """)
                .param("hooks", hooks.keySet().toArray(Long[]::new))
                .param("most", CALLS_TOLD)
                .query(row -> {
                    Objects.requireNonNull(hooks.get(row.getLong("hook")))
                            .calls()
                            .add(new WebhookCall(
                                    row.getLong("id"),
                                    row.getString("event"),
                                    row.getInt("number"),
                                    row.getInt("attempts"),
                                    Plans.instant(row.getTimestamp("last_at")),
                                    Plans.instant(row.getTimestamp("next_at")),
                                    row.getTimestamp("heard_at") != null,
                                    row.getString("said")));
                });
        return new WebhookDesk(hosts.names(), List.copyOf(hooks.values()));
    }

    /** How many are told of a product. */
    Telling telling(long product) {
        return jdbc.sql(
                        """
                        select count(*) hooks, count(*) filter (where c.attempts > 0 and c.heard_at is null) unheard from webhook h
                        left join lateral (select attempts, heard_at from webhook_call where webhook_id = h.id order by id desc limit 1) c on true
                        where h.product_id = :product and h.removed_at is null
                        """)
                .param("product", product)
                .query((row, n) -> new Telling(row.getInt(1), row.getInt(2)))
                .single();
    }

    /** Has a program told from now on. */
    @Transactional
    public WebhookMade add(long person, String slug, String address) {
        people.rights(person).requireCoordinator(DO);
        long product = products.find(slug).id();
        String sound = hosts.require(address).toString();
        int there = jdbc.sql("select count(*) from webhook where product_id = :product and removed_at is null")
                .param("product", product)
                .query(Integer.class)
                .single();
        if (there >= MOST) {
            throw Refusal.unacceptable(
                    "many-webhooks", "At most {most} programs are told of a product.", Map.of("most", MOST));
        }
        String secret = Secrets.made(SECRET_BYTES);
        long id = jdbc.sql(
                        "insert into webhook (product_id, address, secret, person_id, made_at) values (:product, :address, :secret, :person, :at) returning id")
                .param("product", product)
                .param("address", sound)
                .param("secret", secret)
                .param("person", person)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single();
        return new WebhookMade(id, secret);
    }

    /** Has a program told no more. */
    @Transactional
    public void remove(long person, String slug, long id) {
        people.rights(person).requireCoordinator(DO);
        int removed = jdbc.sql(
                        "update webhook set removed_at = :at where id = :id and product_id = :product and removed_at is null")
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .param("id", id)
                .param("product", products.find(slug).id())
                .update();
        if (removed == 0) {
            throw unknown();
        }
        jdbc.sql("update webhook_call set next_at = null where webhook_id = :id and next_at is not null")
                .param("id", id)
                .update();
    }

    /** Has something told once more, at once. */
    @Transactional
    public void again(long person, String slug, long call) {
        people.rights(person).requireCoordinator(DO);
        int again = jdbc.sql(
                        """
                        update webhook_call c set next_at = :now, attempts = 0, heard_at = null from webhook h
                        where c.id = :call and h.id = c.webhook_id and h.product_id = :product and h.removed_at is null
                        """)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("call", call)
                .param("product", products.find(slug).id())
                .update();
        if (again == 0) {
            throw unknown();
        }
    }

    private static Refusal unknown() {
        return Refusal.notFound("no-such-webhook", "No such program is told any more.");
    }

    /** What everybody is told of a delivery, once each. */
    private record Word(String event, String product, int number, String contents, String at) {}

    /** Notes that the programs of a product are to be told of a delivery. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void tell(ProductReply product, long delivery, int number, String contents, String event) {
        Instant now = clock.instant();
        String body = JSON.writeValueAsString(new Word(event, product.slug(), number, contents, now.toString()));
        jdbc.sql(
                        """
                        insert into webhook_call (webhook_id, delivery_id, event, body, next_at)
                        select id, :delivery, :event, :body, :now from webhook where product_id = :product and removed_at is null
                        """)
                .param("delivery", delivery)
                .param("event", event)
                .param("body", body)
                .param("now", now.atOffset(ZoneOffset.UTC))
                .param("product", product.id())
                .update();
    }

    /** Whether this installation lets that address be told now. */
    boolean allows(URI address) {
        return hosts.allow(address);
    }
}
