package android.util;

public final class Log {
    public static void d(String tag, String message) {}

    public static void w(String tag, String message) {}
}
