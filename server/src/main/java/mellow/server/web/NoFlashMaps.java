package mellow.server.web;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.DispatcherServlet;
import org.springframework.web.servlet.FlashMap;
import org.springframework.web.servlet.FlashMapManager;

/** Nothing is handed from one page to the next: looking for it would look up a session at every request, also for the page itself. */
@Component(DispatcherServlet.FLASH_MAP_MANAGER_BEAN_NAME)
class NoFlashMaps implements FlashMapManager {

    @Override
    public @Nullable FlashMap retrieveAndUpdate(HttpServletRequest request, HttpServletResponse response) {
        return null;
    }

    @Override
    public void saveOutputFlashMap(FlashMap flashMap, HttpServletRequest request, HttpServletResponse response) {
        // None is ever filled.
    }
}
