package mellow.server.find;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import mellow.server.record.SearchIndex;
import org.junit.jupiter.api.Test;
import org.mockito.Mockito;

class SearchCatchUpTest {

    private final SearchIndex index = mock();
    private final SearchCatchUp catchUp = new SearchCatchUp(index);

    @Test
    void goesOnUntilNothingWaits() {
        when(index.step()).thenReturn(2_000, 2_000, 7, 0);
        catchUp.catchUp();
        verify(index, Mockito.times(4)).step();
    }

    @Test
    void endsWithTheStepUnderWayWhenTheServerEnds() throws Exception {
        CountDownLatch inStep = new CountDownLatch(1);
        CountDownLatch stepMayEnd = new CountDownLatch(1);
        AtomicInteger steps = new AtomicInteger();
        when(index.step()).thenAnswer(call -> {
            inStep.countDown();
            assertThat(stepMayEnd.await(20, TimeUnit.SECONDS)).isTrue();
            return steps.incrementAndGet();
        });
        CompletableFuture<Void> working = CompletableFuture.runAsync(catchUp::catchUp);
        assertThat(inStep.await(20, TimeUnit.SECONDS)).isTrue();
        CompletableFuture<Void> ended = CompletableFuture.runAsync(catchUp::end);
        assertThat(ended).isNotDone();
        stepMayEnd.countDown();
        ended.get(20, TimeUnit.SECONDS);
        working.get(20, TimeUnit.SECONDS);
        int then = steps.get();
        catchUp.catchUp();
        assertThat(steps).hasValue(then);
    }
}
