package mellow.server.memory;

import org.springframework.boot.test.context.TestComponent;

/** The memory as tests have it: it follows nothing by itself. */
@TestComponent
public class MemoryForTests {

    private final MemoryKeeper keeper;

    MemoryForTests(MemoryKeeper keeper) {
        this.keeper = keeper;
    }

    /** Reads everything again. */
    public void read() {
        keeper.missed();
        keeper.bringUpToDate();
    }

    /** Makes it unready, as at the start of a server. */
    public void forget() {
        keeper.missed();
    }
}
