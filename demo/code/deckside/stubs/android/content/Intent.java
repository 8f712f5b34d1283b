package android.content;

public class Intent {
    public Intent(String action) {}

    public void putExtra(String name, String value) {}

    public void putExtra(String name, int value) {}
}
