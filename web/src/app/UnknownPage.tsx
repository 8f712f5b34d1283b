import { Button } from "@mui/material";
import { Link, useLocation } from "react-router";
import { t } from "../words/words";
import { Frame } from "../desk/Frame";

/** What is at an address that there is not. */
export function UnknownPage() {
  const { pathname } = useLocation();
  return (
    <Frame title={t("page.unknown")}>
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
