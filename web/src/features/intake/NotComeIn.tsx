import { Alert, Button } from "@mui/material";
import { useState } from "react";
import { t } from "../../words/words";
import type { Refusal } from "./uploading";

/** As many are shown before somebody asks for all. */
const SHOWN = 8;

interface Props {
  refused: Refusal[];
  onTake: (file: string) => void;
  onClose: () => void;
}

/** Files that did not come in with the others: those that can be taken in by themselves, and those that cannot be read as they seem, of which somebody may know better. */
export function NotComeIn({ refused, onTake, onClose }: Props) {
  const [all, setAll] = useState(false);
  const apart = refused.filter((one) => one.readable);
  const unreadable = refused.filter((one) => !one.readable);
  const most = all ? Infinity : SHOWN;
  return (
    <>
      {unreadable.length > 0 && (
        <Alert severity="error" onClose={onClose}>
          <b>{t("intake.refused", { n: unreadable.length })}</b>
          <ul className="refused">
            {unreadable.slice(0, most).map((one) => (
              <li key={one.file}>
                {one.why.includes(one.file) ? one.why : `${one.file}: ${one.why}`}{" "}
                {one.kept && (
                  <Button size="small" onClick={() => onTake(one.file)}>
                    {t("intake.seeHowRead")}
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </Alert>
      )}
      {apart.length > 0 && (
        <Alert severity="info" onClose={onClose}>
          <b>{t("intake.apart", { n: apart.length })}</b>
          <ul className="refused">
            {apart.slice(0, most).map((one) => (
              <li key={one.file}>
                {one.why}{" "}
                <Button size="small" onClick={() => onTake(one.file)}>
                  {t("intake.takeAlone")}
                </Button>
              </li>
            ))}
          </ul>
        </Alert>
      )}
      {!all && (apart.length > SHOWN || unreadable.length > SHOWN) && (
        <Button size="small" onClick={() => setAll(true)}>
          {t("intake.showAllRefused", { n: refused.length })}
        </Button>
      )}
    </>
  );
}
