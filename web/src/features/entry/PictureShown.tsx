import { Dialog } from "@mui/material";
import { useState } from "react";
import { t } from "../../words/words";
import "./entry.css";

/** The picture that shows where an entry is used; a click shows it at full size. */
export function PictureShown({ picture, entry }: { picture: number; entry: string }) {
  const [large, setLarge] = useState(false);
  const address = `/api/pictures/${picture}`;
  return (
    <>
      <button
        type="button"
        className="thumbnail"
        aria-label={t("entry.enlarge", { key: entry })}
        onClick={() => setLarge(true)}
      >
        <img src={address} alt="" loading="lazy" />
      </button>
      <Dialog open={large} onClose={() => setLarge(false)} maxWidth="xl" aria-label={entry}>
        <img className="full" src={address} alt={t("entry.pictureOf", { key: entry })} />
      </Dialog>
    </>
  );
}
