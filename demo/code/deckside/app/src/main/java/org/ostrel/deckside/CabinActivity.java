package org.ostrel.deckside;

import android.app.Activity;
import android.content.Intent;
import android.widget.TextView;
import android.widget.Toast;
import java.text.SimpleDateFormat;
import java.util.Date;
import java.util.Map;

/** The cabin: its number, its code, and what can be asked for. */
public class CabinActivity extends Activity {

    private static final String QUERY = "select deck, code from cabin where number = ?";
    private static final String DISTURBED = "Do Not Disturb";
    private static final Map<String, Integer> KINDS = Map.of(
            "With Window", R.string.cabin_window,
            "Inside", R.string.cabin_inside);

    void show(String number, String code, Date until) {
        TextView title = findViewById(R.id.title);
        title.setText(getString(R.string.cabin_number, number));
        TextView shown = findViewById(R.id.code);
        shown.setText(getString(R.string.cabin_key_code, code, number));
        String time = new SimpleDateFormat("HH:mm", java.util.Locale.ROOT).format(until);
        TextView leave = findViewById(R.id.gate);
        leave.setText(getString(R.string.cabin_checkout, time));
        query(QUERY, number);
    }

    void kind(String kind) {
        Integer id = KINDS.get(kind);
        if (id != null) {
            setTitle(getString(id));
        }
    }

    void lamp(String state) {
        int id = getResources().getIdentifier("cabin_lamp_" + state, "string", getPackageName());
        setTitle(getString(id));
    }

    void steward(boolean coming) {
        String message = coming ? "The steward is on the way" : "No steward is free just now";
        Toast.makeText(this, message, Toast.LENGTH_SHORT).show();
        Intent intent = new Intent("org.ostrel.deckside.STEWARD");
        intent.putExtra("Cabin Number", 7);
        intent.putExtra("note", DISTURBED);
    }

    void beds(int beds) {
        String label = beds + " beds";
        setTitle(label);
        setTitle(beds == 2 ? getString(R.string.cabin_beds_two) : getString(R.string.cabin_beds_four));
    }

    private void query(String sql, String... values) {
        if (sql.isBlank() || values.length == 0) {
            throw new IllegalArgumentException("There is nothing to look for");
        }
    }
}
