import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import { CssBaseline, ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Refused } from "./api/client";
import { App } from "./app/App";
import { headStart } from "./app/headStart";
import { chooseLanguage } from "./app/language";
import "./parts/base.css";
import "./theme/fonts";
import { makeTheme } from "./theme/theme";
import { t } from "./words/words";

const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.content;
const styles = createCache({ key: "mellow", nonce, prepend: true });
const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // A refusal stays one however often it is asked for; a server that is just starting deserves a second try.
      retry: (times, failure) => !(failure instanceof Refused) && times < 2,
      refetchOnWindowFocus: false,
    },
  },
});

headStart(queries, window.location);
await chooseLanguage();
document.title = t("product");
const theme = makeTheme();

const root = document.getElementById("root");
if (!root) throw new Error("The page has no root element.");
createRoot(root).render(
  <StrictMode>
    <CacheProvider value={styles}>
      <ThemeProvider theme={theme} defaultMode="system">
        <CssBaseline />
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </QueryClientProvider>
      </ThemeProvider>
    </CacheProvider>
  </StrictMode>,
);
