package mellow.server.live;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import mellow.server.people.Doors.Seat;
import mellow.server.people.SignedIn;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** The stream of changes that an open screen listens to. */
@RestController
class LiveController {

    /** The browser asks again by itself; a limit keeps forgotten streams from living for ever. */
    private static final long LONGEST_MILLIS = 30 * 60 * 1000L;

    private final LiveService live;

    LiveController(LiveService live) {
        this.live = live;
    }

    /** Server-sent events: "change" with a table, entries and languages; "missed" when the screen should read again. */
    @GetMapping(path = "/api/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter stream(@AuthenticationPrincipal SignedIn me, HttpServletRequest request) {
        SseEmitter emitter = new SseEmitter(LONGEST_MILLIS);
        HttpSession session = request.getSession(false);
        Stream stream = new Stream(emitter, new Seat(me.id(), session == null ? "" : session.getId()));
        emitter.onCompletion(() -> live.leave(stream));
        emitter.onTimeout(emitter::complete);
        emitter.onError(gone -> live.leave(stream));
        live.listen(stream);
        stream.send(SseEmitter.event().comment("here"));
        return emitter;
    }

    private final class Stream implements LiveService.Listener {
        private final SseEmitter emitter;

        private final Seat seat;

        Stream(SseEmitter emitter, Seat seat) {
            this.emitter = emitter;
            this.seat = seat;
        }

        @Override
        public Seat seat() {
            return seat;
        }

        @Override
        public void changed(String json) {
            send(SseEmitter.event().name("change").data(json));
        }

        @Override
        public void quiet() {
            send(SseEmitter.event().comment("still here"));
        }

        @Override
        public void missed() {
            send(SseEmitter.event().name("missed").data("{}"));
        }

        @Override
        public void ending() {
            emitter.complete();
        }

        private void send(SseEmitter.SseEventBuilder event) {
            try {
                emitter.send(event);
            } catch (IOException | IllegalStateException browserLeft) {
                live.leave(this);
            }
        }
    }
}
