package android.widget;

import android.app.Activity;

public class Toast {
    public static final int LENGTH_SHORT = 0;
    public static final int LENGTH_LONG = 1;

    public static Toast makeText(Activity at, String text, int length) {
        return new Toast();
    }

    public void show() {}
}
