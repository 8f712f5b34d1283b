import { Alert, Button } from "@mui/material";
import { lazy, type ComponentType } from "react";
import { t } from "../words/words";

/** A screen that is fetched when it is first opened; says so when it cannot be, as after the server has become a newer one. */
export function page<Props>(load: () => Promise<ComponentType<Props>>) {
  return lazy(async () => ({ default: await load().catch(() => NotFetched as ComponentType<Props>) }));
}

function NotFetched() {
  return (
    <div className="empty">
      <Alert severity="warning" action={<Button onClick={() => location.reload()}>{t("retry")}</Button>}>
        {t("page.notFetched")}
      </Alert>
    </div>
  );
}
