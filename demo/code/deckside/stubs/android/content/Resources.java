package android.content;

public class Resources {
    public int getIdentifier(String name, String kind, String of) {
        return (name + kind + of).hashCode();
    }

    public String getQuantityString(int id, int count, Object... values) {
        return id + " " + count + java.util.Arrays.toString(values);
    }
}
