package android.app;

import android.content.Resources;

public class Activity {
    public String getString(int id, Object... values) {
        return id + String.join(" ", java.util.Arrays.toString(values));
    }

    public String getPackageName() {
        return "";
    }

    public Resources getResources() {
        return new Resources();
    }

    public void setTitle(String title) {}

    public void setTitle(int title) {}

    public <T> T findViewById(int id) {
        throw new UnsupportedOperationException("Only a phone has views, not " + id);
    }
}
