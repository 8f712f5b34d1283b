package mellow.server.intake;

import java.util.Arrays;

/**
 * Finds places for new entries: each after its neighbour in the file, so that a table keeps the order that people gave it. Positions are numbers
 * with room between any two; a run of new entries is spread evenly over the room.
 */
final class Positions {

    private static final double STEP = 1024;

    /** Place of each of the file's entries, NaN while unknown. */
    private final double[] places;

    private double[] record = new double[256];
    private int recorded;
    private boolean spread;

    Positions(int fileEntries) {
        places = new double[fileEntries];
        Arrays.fill(places, Double.NaN);
    }

    /** The record has an entry there; told in ascending order. */
    void taken(double position) {
        if (recorded == record.length) {
            record = Arrays.copyOf(record, recorded * 2);
        }
        record[recorded++] = position;
    }

    /** The file's entry {@code index} is the record's at {@code position}. */
    void met(int index, double position) {
        places[index] = position;
    }

    /** The place for the file's entry {@code index}; asked for after the whole record was told. */
    double place(int index) {
        if (!spread) {
            spreadAll();
            spread = true;
        }
        return places[index];
    }

    private void spreadAll() {
        int i = 0;
        while (i < places.length) {
            if (!Double.isNaN(places[i])) {
                i++;
                continue;
            }
            int end = i;
            while (end < places.length && Double.isNaN(places[end])) {
                end++;
            }
            spread(i, end);
            i = end;
        }
    }

    private void spread(int from, int to) {
        int count = to - from;
        double low;
        double high;
        if (from > 0) {
            low = places[from - 1];
            high = nextAfter(low);
            high = Double.isNaN(high) ? low + STEP * (count + 1) : high;
        } else if (recorded > 0 && to == places.length) {
            // The file shares no entry with the record: its entries have no neighbours, and come after all.
            low = record[recorded - 1];
            high = low + STEP * (count + 1);
        } else {
            high = recorded == 0 ? STEP * (count + 1) : record[0];
            low = recorded == 0 ? 0 : high - STEP * (count + 1);
        }
        for (int i = 0; i < count; i++) {
            places[from + i] = low + (high - low) * (i + 1) / (count + 1);
        }
    }

    private double nextAfter(double position) {
        int found = Arrays.binarySearch(record, 0, recorded, position);
        int next = found >= 0 ? found + 1 : -found - 1;
        return next < recorded ? record[next] : Double.NaN;
    }
}
