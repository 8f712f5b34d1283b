package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class PositionsTest {

    @Test
    void spreadsNewEntriesBetweenTheirNeighbours() {
        Positions positions = new Positions(4);
        positions.taken(100);
        positions.met(0, 100);
        positions.taken(200);
        positions.met(3, 200);
        assertThat(positions.place(1)).isBetween(100.0, positions.place(2));
        assertThat(positions.place(2)).isBetween(positions.place(1), 200.0);
    }

    @Test
    void keepsClearOfEntriesThatTheFileDoesNotHave() {
        Positions positions = new Positions(2);
        positions.taken(100);
        positions.met(0, 100);
        positions.taken(150);
        assertThat(positions.place(1)).isBetween(100.0, 150.0);
    }

    @Test
    void putsWhatComesFirstBeforeAllAndWhatComesLastBehind() {
        Positions positions = new Positions(3);
        positions.taken(100);
        positions.met(1, 100);
        assertThat(positions.place(0)).isLessThan(100);
        assertThat(positions.place(2)).isGreaterThan(100);
    }

    @Test
    void putsAFileWithoutAnyKnownEntryBehindAll() {
        Positions positions = new Positions(2);
        positions.taken(100);
        positions.taken(200);
        assertThat(positions.place(0)).isGreaterThan(200);
        assertThat(positions.place(1)).isGreaterThan(positions.place(0));
    }
}
