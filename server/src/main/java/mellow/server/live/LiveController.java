package mellow.server.live;

import java.io.IOException;
import org.springframework.http.MediaType;
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
    SseEmitter stream() {
        SseEmitter emitter = new SseEmitter(LONGEST_MILLIS);
        Stream stream = new Stream(emitter);
        emitter.onCompletion(() -> live.leave(stream));
        emitter.onTimeout(emitter::complete);
        emitter.onError(gone -> live.leave(stream));
        live.listen(stream);
        stream.send(SseEmitter.event().name("open").data("{}"));
        return emitter;
    }

    private final class Stream implements LiveService.Listener {
        private final SseEmitter emitter;

        Stream(SseEmitter emitter) {
            this.emitter = emitter;
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
