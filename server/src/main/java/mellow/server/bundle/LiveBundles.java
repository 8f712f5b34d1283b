package mellow.server.bundle;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import mellow.core.bundle.Bundle;
import mellow.core.delivery.UndeliverableException;
import mellow.server.bundle.Bodies.Now;
import mellow.server.bundle.BundleAccess.Granted;
import mellow.server.bundle.BundleAccess.ProductAt;
import mellow.server.bundle.BundleAccess.Seat;
import mellow.server.common.Refusal;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import tools.jackson.databind.json.JsonMapper;

/**
 * Tells open products what changes in their texts while it changes, for those who translate beside them. Whoever listens gets a whole bundle first, and then what differs
 * from what was told before. However many listen to the same, it is made once; and it is made half of the time at most.
 */
@Component
class LiveBundles implements LiveService.Ear, SmartLifecycle {

    /** Streams of one token on one server. */
    static final int MOST_OF_ONE = 20;

    private static final Logger LOG = LoggerFactory.getLogger(LiveBundles.class);
    private static final int MOST = 500;
    /** Somebody who does not read that many changes is let go, and asks for everything anew. */
    private static final int MOST_UNSENT = 64;
    /** Whoever may not go on is ended within a second. */
    private static final long LOOK_NANOS = TimeUnit.MILLISECONDS.toNanos(700);

    private static final long REMIND_NANOS = TimeUnit.SECONDS.toNanos(15);
    private static final long LONGEST_MILLIS = TimeUnit.MINUTES.toMillis(30);
    private static final JsonMapper JSON = JsonMapper.shared();

    private final BundleAccess access;
    private final Bodies bodies;
    private final LiveService live;
    private final Map<Heard, Group> groups = new ConcurrentHashMap<>();
    private final Set<Stream> streams = ConcurrentHashMap.newKeySet();
    private final Semaphore wake = new Semaphore(0);
    private @Nullable ExecutorService senders;
    private volatile @Nullable Thread teller;
    private volatile boolean running;

    LiveBundles(BundleAccess access, Bodies bodies, LiveService live) {
        this.access = access;
        this.bodies = bodies;
        this.live = live;
    }

    /** What several may listen to. */
    private record Heard(ProductAt product, Now now) {}

    /** Those who listen to the same. */
    private final class Group {
        final Heard heard;
        final Granted granted;
        final Set<Long> tables;
        final Set<Stream> here = ConcurrentHashMap.newKeySet();
        volatile boolean changed;
        private @Nullable Bundle told;
        private long notBefore;

        Group(Heard heard, Granted granted) {
            this.heard = heard;
            this.granted = granted;
            this.tables = bodies.spoken(granted, heard.now.slug()).tables();
        }

        /** Tells somebody new everything. */
        synchronized void join(Stream stream) {
            if (told == null) {
                told = bodies.now(granted, heard.now);
            }
            stream.joined = true;
            stream.send("bundle", JSON.writeValueAsString(bodies.told(heard.now, told)));
        }

        /** Tells all what differs from what they were told. */
        synchronized void tell() {
            Bundle before = told;
            if (before == null || System.nanoTime() - notBefore < 0) {
                return;
            }
            changed = false;
            long began = System.nanoTime();
            Bundle after = bodies.now(granted, heard.now);
            Bundle.Change change = after.since(before);
            told = after;
            if (!change.isNone()) {
                String json = JSON.writeValueAsString(bodies.told(heard.now, change));
                here.stream().filter(stream -> stream.joined).forEach(stream -> stream.send("change", json));
            }
            long now = System.nanoTime();
            notBefore = now + (now - began);
        }
    }

    /** One who listens. Events go out one after the other, beside all others: who reads slowly keeps nobody waiting. */
    private final class Stream {
        final SseEmitter emitter = new SseEmitter(LONGEST_MILLIS);
        final Seat seat;
        final Group group;
        private final Deque<SseEmitter.SseEventBuilder> unsent = new ArrayDeque<>();
        private boolean sending;
        /** Whether it was told everything; only then can it be told what changes. */
        private volatile boolean joined;

        Stream(Seat seat, Group group) {
            this.seat = seat;
            this.group = group;
        }

        void send(String name, String json) {
            add(SseEmitter.event().name(name).data(json));
        }

        void add(SseEmitter.SseEventBuilder event) {
            ExecutorService by = senders;
            synchronized (unsent) {
                if (unsent.size() >= MOST_UNSENT || by == null) {
                    end();
                    return;
                }
                unsent.add(event);
                if (!sending) {
                    sending = true;
                    by.execute(this::drain);
                }
            }
        }

        private void drain() {
            while (true) {
                SseEmitter.SseEventBuilder next;
                synchronized (unsent) {
                    next = unsent.poll();
                    if (next == null) {
                        sending = false;
                        return;
                    }
                }
                try {
                    emitter.send(next);
                } catch (IOException | IllegalStateException left) {
                    leave();
                    return;
                }
            }
        }

        void leave() {
            streams.remove(this);
            group.here.remove(this);
            groups.computeIfPresent(group.heard, (heard, there) -> there.here.isEmpty() ? null : there);
        }

        void end() {
            leave();
            ExecutorService by = senders;
            if (by == null || by.isShutdown()) {
                emitter.complete();
            } else {
                // Not here: it may have to wait for what is being sent.
                by.execute(emitter::complete);
            }
        }
    }

    /** Begins to tell somebody. */
    SseEmitter listen(Granted granted, Now now) {
        Stream stream = enter(granted, now);
        try {
            stream.group.join(stream);
        } catch (RuntimeException failed) {
            stream.leave();
            throw failed;
        }
        wake.release();
        return stream.emitter;
    }

    /** One after the other, so that many who come at once are no more than may be. */
    private synchronized Stream enter(Granted granted, Now now) {
        long ofOne = streams.stream()
                .filter(stream -> stream.seat.token() == granted.token())
                .count();
        if (ofOne >= MOST_OF_ONE || streams.size() >= MOST) {
            throw Refusal.unacceptable(
                    "too-many-streams",
                    "At most {most} products listen with one token at a time; close some.",
                    Map.of("most", MOST_OF_ONE));
        }
        Heard heard = new Heard(granted.product(), now);
        Stream[] made = new Stream[1];
        // Within the map's own step, so that whoever leaves last does not take away a group that somebody comes to.
        groups.compute(heard, (any, there) -> {
            Group group = there == null ? new Group(heard, granted) : there;
            made[0] = new Stream(new Seat(granted.token(), granted.product()), group);
            group.here.add(made[0]);
            return group;
        });
        Stream stream = made[0];
        stream.emitter.onCompletion(stream::leave);
        stream.emitter.onTimeout(stream.emitter::complete);
        stream.emitter.onError(gone -> stream.leave());
        streams.add(stream);
        return stream;
    }

    @Override
    public void changed(LiveChange change) {
        boolean any = false;
        for (Group group : groups.values()) {
            if (group.tables.contains(change.table())) {
                group.changed = true;
                any = true;
            }
        }
        if (any) {
            wake.release();
        }
    }

    @Override
    public void missed() {
        groups.values().forEach(group -> group.changed = true);
        wake.release();
    }

    private void tellOn() {
        long looked = System.nanoTime();
        long reminded = looked;
        while (running) {
            try {
                // Nobody there: nothing to look at until somebody comes.
                if (streams.isEmpty()) {
                    wake.acquire();
                } else if (wake.tryAcquire(LOOK_NANOS / 4, TimeUnit.NANOSECONDS)) {
                    wake.drainPermits();
                }
                if (System.nanoTime() - looked > LOOK_NANOS) {
                    endThoseWhoMayNotStay();
                    looked = System.nanoTime();
                }
                if (System.nanoTime() - reminded > REMIND_NANOS) {
                    streams.forEach(stream -> stream.add(SseEmitter.event().comment("still here")));
                    reminded = System.nanoTime();
                }
                groups.values().stream().filter(group -> group.changed).forEach(this::tell);
            } catch (InterruptedException ended) {
                Thread.currentThread().interrupt();
                return;
            } catch (RuntimeException failed) {
                // Mostly the database is away; whatever it is, those who listen are told later and not never.
                LOG.warn("What changed for open products could not be told, trying again.", failed);
                missed();
                pause();
            }
        }
    }

    private void tell(Group group) {
        try {
            group.tell();
        } catch (UndeliverableException | Refusal stopped) {
            // They ask anew and are told why.
            LOG.info("Open products are told no more: {}", stopped.getMessage());
            List.copyOf(group.here).forEach(Stream::end);
        }
    }

    private void pause() {
        try {
            Thread.sleep(TimeUnit.SECONDS.toMillis(1));
        } catch (InterruptedException ended) {
            Thread.currentThread().interrupt();
        }
    }

    private void endThoseWhoMayNotStay() {
        List<Stream> here = new ArrayList<>(streams);
        if (here.isEmpty()) {
            return;
        }
        Set<Integer> staying =
                access.mayStay(here.stream().map(stream -> stream.seat).toList());
        for (int i = 0; i < here.size(); i++) {
            if (!staying.contains(i)) {
                here.get(i).end();
            }
        }
    }

    @Override
    public void start() {
        running = true;
        senders = Executors.newCachedThreadPool(work -> {
            Thread thread = new Thread(work, "bundle-sender");
            thread.setDaemon(true);
            return thread;
        });
        live.attend(this);
        Thread thread = new Thread(this::tellOn, "bundle-teller");
        thread.setDaemon(true);
        teller = thread;
        thread.start();
    }

    @Override
    public void stop() {
        running = false;
        List.copyOf(streams).forEach(Stream::end);
        Thread thread = teller;
        if (thread != null) {
            thread.interrupt();
        }
        ExecutorService by = senders;
        if (by != null) {
            by.shutdown();
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
