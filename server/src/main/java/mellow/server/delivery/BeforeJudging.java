package mellow.server.delivery;

/** Somebody who keeps what gates ask about, and is given the chance to bring it up to date before a product is judged for a delivery. */
public interface BeforeJudging {

    /** Brings up to date what is kept of a product, in a transaction of its own. */
    void bringUpToDate(String product);
}
