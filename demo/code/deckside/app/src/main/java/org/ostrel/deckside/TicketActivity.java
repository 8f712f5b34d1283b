package org.ostrel.deckside;

import android.app.Activity;
import android.widget.TextView;

/** Tickets of the passenger. */
public class TicketActivity extends Activity {

    private static final String HELP = """
            Show the code to the crew.
            Turn up the brightness if it cannot be read.""";

    @SuppressWarnings("Not Checked")
    void show(int tickets) {
        TextView title = findViewById(R.id.title);
        if (tickets == 0) {
            title.setText(R.string.ticket_none);
        } else {
            title.setText(getResources().getQuantityString(R.plurals.ticket_count, tickets, tickets));
        }
        TextView help = findViewById(R.id.code);
        help.setText(HELP);
        help.setHint("Tap to copy");
    }

    void share(String mail) {
        if (!mail.contains("@")) {
            warn("This is no e-mail address");
            return;
        }
        String subject = "Your ticket from Ostrel Ferries";
        mail("mailto:" + mail + "?subject=" + subject);
        setTitle(R.string.ticket_title);
    }

    private void warn(String text) {
        setTitle(text);
    }

    private void mail(String address) {
        System.out.println("Mailing to " + address);
    }
}
