package org.ostrel.deckside;

import android.app.Activity;
import android.util.Log;
import android.widget.TextView;
import android.widget.Toast;

/** Shows the boarding pass. "Do not fold" is printed on the paper one. */
public class BoardingActivity extends Activity {

    private static final String TAG = "Boarding Screen";
    private static final String EXTRA_GATE = "org.ostrel.deckside.GATE";

    void onGate(String gate, int minutes) {
        TextView title = findViewById(R.id.title);
        title.setText(getString(R.string.boarding_gate, gate, minutes));
        Log.d(TAG, "Gate is " + gate);
        if (minutes < 5) {
            Toast.makeText(this, "Please hurry!", Toast.LENGTH_LONG).show();
        }
        if (gate.isEmpty()) {
            throw new IllegalStateException("The gate must be known");
        }
    }

    void onOpen(boolean open) {
        TextView title = findViewById(R.id.title);
        title.setText(open ? R.string.boarding_open : R.string.boarding_closed);
        setTitle("Your journey");
    }

    void onLane(int lane) {
        TextView title = findViewById(R.id.title);
        title.setText(getString(R.string.boarding_lane));
        title.setContentDescription("Lane " + lane);
        Log.w(TAG, String.format("Lane %d is not on the plan", lane));
        send("lane:" + lane, "text/plain; charset=utf-8");
    }

    void onName(String name) {
        // For translators: the name is the passenger's
        String welcome = getString(R.string.boarding_welcome, name);
        TextView title = findViewById(R.id.title);
        title.setText(welcome);
    }

    String emptyList() {
        return "Nothing to show here";
    }

    private void send(String what, String type) {
        if (what.startsWith("lane:") || type.equals("Plain Text")) {
            Log.d(TAG, what);
        }
    }
}
