package mellow.core.check;

import java.util.List;
import mellow.core.placeholder.IcuMessage;

/** A message that cannot be read, where the source is an ICU message with types. */
final class MessageBroken implements Check {

    @Override
    public boolean blocks() {
        return true;
    }

    @Override
    public void lookAt(Inspected.Form form, List<Finding> found) {
        String text = form.text();
        IcuMessage message = form.message();
        if (message != null && message.error() != null) {
            int at = Math.min(message.errorAt(), text.length());
            found.add(Finding.blocker(
                            "message-broken",
                            form.name(),
                            "The message cannot be read at character " + (text.codePointCount(0, at) + 1) + ": "
                                    + message.error() + ".")
                    .at(at, Math.min(text.length(), at + 1)));
        }
    }
}
