package mellow.server.delivery;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.sql.Types;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mellow.core.delivery.Schedule;
import mellow.server.common.Refusal;
import mellow.server.people.PeopleService;
import mellow.server.product.ProductService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What must hold before a product goes out, where it goes, and when by itself. */
@Service
class Plans {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final int MOST_TIMES = 24;

    private final ProductService products;
    private final PeopleService people;
    private final JdbcClient jdbc;
    private final Clock clock;

    Plans(ProductService products, PeopleService people, JdbcClient jdbc, Clock clock) {
        this.products = products;
        this.people = people;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * A plan.
     *
     * @param everyHours null when it goes out at times or not by itself
     * @param times of the day, such as 06:30
     * @param zone an IANA time zone, in which days and times are meant
     * @param nextAt when it goes out next by itself, null for never
     * @param lastAt when it last tried, null for never
     * @param lastSaid what came of it
     */
    record DeliveryPlan(
            Gates gates,
            boolean outbox,
            @Nullable Integer everyHours,
            List<String> times,
            String zone,
            @Nullable Instant nextAt,
            @Nullable Instant lastAt,
            String lastSaid,
            int version) {

        static final DeliveryPlan NONE =
                new DeliveryPlan(Gates.USUAL, false, null, List.of(), "UTC", null, null, "", 0);

        Optional<Schedule> schedule() {
            List<LocalTime> at = times.stream().map(LocalTime::parse).toList();
            return everyHours == null && at.isEmpty()
                    ? Optional.empty()
                    : Optional.of(new Schedule(everyHours == null ? 0 : everyHours, at, ZoneId.of(zone)));
        }
    }

    /** The plan of a product. */
    @Transactional(readOnly = true)
    public DeliveryPlan of(long product) {
        return jdbc.sql("select * from delivery_plan where product_id = :product")
                .param("product", product)
                .query((row, n) -> plan(row))
                .optional()
                .orElse(DeliveryPlan.NONE);
    }

    /** The plans of all products that have one, by their numbers. */
    @Transactional(readOnly = true)
    public Map<Long, DeliveryPlan> all() {
        Map<Long, DeliveryPlan> all = new HashMap<>();
        jdbc.sql("select * from delivery_plan").query(row -> {
            all.put(row.getLong("product_id"), plan(row));
        });
        return all;
    }

    private static DeliveryPlan plan(ResultSet row) throws SQLException {
        return new DeliveryPlan(
                JSON.readValue(row.getString("gates"), Gates.class),
                row.getBoolean("outbox"),
                row.getObject("every_hours", Integer.class),
                List.of((String[]) row.getArray("times").getArray()),
                row.getString("zone"),
                instant(row.getTimestamp("next_at")),
                instant(row.getTimestamp("last_at")),
                row.getString("last_said"),
                row.getInt("version"));
    }

    static @Nullable Instant instant(@Nullable Timestamp at) {
        return at == null ? null : at.toInstant();
    }

    /** Changes a plan; who does so answers for what goes out by itself. */
    @Transactional
    public void change(long person, String slug, DeliveryPlan wanted) {
        people.rights(person).requireCoordinator("say when products go out");
        long product = products.find(slug).id();
        wanted.gates().requireSound();
        DeliveryPlan before = of(product);
        boolean sameTimes = Objects.equals(before.everyHours(), wanted.everyHours())
                && before.times().equals(wanted.times())
                && before.zone().equals(wanted.zone());
        Instant next = sameTimes ? before.nextAt() : next(wanted);
        make(product);
        int changed = jdbc.sql(
                        """
                        update delivery_plan set gates = cast(:gates as jsonb), outbox = :outbox, every_hours = :every, times = :times, zone = :zone,
                            next_at = :next, person_id = :person, version = version + 1
                        where product_id = :product and version = :version
                        """)
                .param("gates", JSON.writeValueAsString(wanted.gates()))
                .param("outbox", wanted.outbox())
                .param("every", wanted.everyHours(), Types.INTEGER)
                .param("times", wanted.times().toArray(String[]::new))
                .param("zone", wanted.zone())
                .param("next", next == null ? null : next.atOffset(ZoneOffset.UTC), Types.TIMESTAMP_WITH_TIMEZONE)
                .param("person", person)
                .param("product", product)
                .param("version", wanted.version())
                .update();
        if (changed == 0) {
            throw Refusal.conflict("plan-moved-on", "Someone changed this plan meanwhile; look at it again.", Map.of());
        }
    }

    /** Keeps every other delivery of a product waiting until this transaction ends. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void hold(long product) {
        make(product);
        jdbc.sql("select product_id from delivery_plan where product_id = :product for update")
                .param("product", product)
                .query(Long.class)
                .single();
    }

    private void make(long product) {
        jdbc.sql(
                        "insert into delivery_plan (product_id, gates) values (:product, cast(:gates as jsonb)) on conflict do nothing")
                .param("product", product)
                .param("gates", JSON.writeValueAsString(Gates.USUAL))
                .update();
    }

    private @Nullable Instant next(DeliveryPlan wanted) {
        try {
            if (wanted.times().size() > MOST_TIMES
                    || (wanted.everyHours() != null && (wanted.everyHours() < 1 || wanted.everyHours() > 720))
                    || (wanted.everyHours() != null && !wanted.times().isEmpty())) {
                throw badSchedule();
            }
            ZoneId.of(wanted.zone());
            return wanted.schedule().map(one -> one.next(clock.instant())).orElse(null);
        } catch (DateTimeException unknown) {
            throw badSchedule();
        }
    }

    private static Refusal badSchedule() {
        return Refusal.unacceptable(
                "bad-schedule",
                "A schedule is every 1 to 720 hours, or up to {most} times of the day such as 06:30, in a time zone such as Europe/Helsinki.",
                Map.of("field", "schedule", "most", MOST_TIMES));
    }

    /** A product whose time has come. */
    record Due(long product, long person) {}

    /** Those whose time has come. */
    @Transactional(readOnly = true)
    public List<Due> due() {
        return jdbc.sql(
                        """
                        select d.product_id, d.person_id from delivery_plan d join product p on p.id = d.product_id and p.removed_at is null
                        where d.next_at <= :now order by d.next_at
                        """)
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .query((row, n) -> new Due(row.getLong(1), row.getLong(2)))
                .list();
    }

    /** Sets the next time of a product; whether its time had come and nobody else had done so. Times that were missed are made up once. */
    @Transactional
    public boolean claim(long product) {
        Instant now = clock.instant();
        DeliveryPlan plan = of(product);
        return plan.nextAt() != null
                && !plan.nextAt().isAfter(now)
                && jdbc.sql(
                                        "update delivery_plan set next_at = :next where product_id = :product and next_at = :was and next_at <= :now")
                                .param(
                                        "next",
                                        plan.schedule()
                                                .map(one -> one.next(now).atOffset(ZoneOffset.UTC))
                                                .orElse(null),
                                        Types.TIMESTAMP_WITH_TIMEZONE)
                                .param("product", product)
                                .param(
                                        "was",
                                        Objects.requireNonNull(plan.nextAt()).atOffset(ZoneOffset.UTC))
                                .param("now", now.atOffset(ZoneOffset.UTC))
                                .update()
                        > 0;
    }

    /** Notes what came of a try by itself. */
    @Transactional
    public void said(long product, String words) {
        jdbc.sql("update delivery_plan set last_at = :now, last_said = :words where product_id = :product")
                .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                .param("words", words)
                .param("product", product)
                .update();
    }
}
