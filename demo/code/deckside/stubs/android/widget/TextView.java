package android.widget;

public class TextView {
    public void setText(String text) {}

    public void setText(int text) {}

    public void setHint(String text) {}

    public void setContentDescription(String text) {}
}
