package org.ostrel.deckside;

/** What a ticket says. */
class TicketActivityTest {
    String wanted() {
        return "You have no tickets yet" + R.string.ticket_buy + R.string.ticket_test_only;
    }
}
