import { Button } from "@mui/material";
import { Link, useLocation } from "react-router";
import type { Person } from "../features/session/useSession";
import { t } from "../words/words";
import { Frame } from "./Frame";

/** What is at an address that there is not. */
export function UnknownPage({ me }: { me: Person }) {
  const { pathname } = useLocation();
  return (
    <Frame me={me} title={t("page.unknown")}>
      <div className="empty">
        <h2>{t("page.unknown")}</h2>
        <p className="soft">{t("page.unknownWords", { address: pathname })}</p>
        <Button variant="outlined" component={Link} to="/board">
          {t("page.toBoard")}
        </Button>
      </div>
    </Frame>
  );
}
