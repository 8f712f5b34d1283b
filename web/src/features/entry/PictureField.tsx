import { Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { ask, sentenceOf } from "../../api/client";
import { t } from "../../words/words";
import type { Row } from "../../sheet/rowStore";
import { PictureShown } from "./PictureShown";
import type { EntriesChanged } from "./useEntry";
import "./entry.css";

const LARGEST = 5 * 1024 * 1024;

interface Props {
  row: Row;
  onDone: (changed: EntriesChanged) => void;
  onWrong: (sentence: string) => void;
}

/** Where the picture of an entry is chosen, pasted or taken away. */
export function PictureField({ row, onDone, onWrong }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const change = async (picture: Blob | null) => {
    if (picture && picture.size > LARGEST) {
      onWrong(t("entry.pictureTooLarge"));
      return;
    }
    setBusy(true);
    try {
      const path = `/api/entries/${row.id}/picture`;
      onDone(await ask<EntriesChanged>(path, picture ? { method: "PUT", bytes: picture } : { method: "DELETE" }));
    } catch (failure) {
      onWrong(sentenceOf(failure));
    } finally {
      setBusy(false);
    }
  };
  const latest = useRef(change);
  useEffect(() => {
    latest.current = change;
  });
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const picture = [...(event.clipboardData?.files ?? [])].find((file) => file.type.startsWith("image/"));
      if (picture) {
        event.preventDefault();
        void latest.current(picture);
      }
    };
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, []);
  return (
    <div className="picture-field">
      {row.picture !== undefined && <PictureShown picture={row.picture} entry={row.key} />}
      <Button size="small" variant="outlined" disabled={busy} onClick={() => input.current?.click()}>
        {t(row.picture === undefined ? "entry.addPicture" : "entry.changePicture")}
      </Button>
      {row.picture !== undefined && (
        <Button size="small" color="error" disabled={busy} onClick={() => void change(null)}>
          {t("entry.dropPicture")}
        </Button>
      )}
      <span className="soft">{t("entry.pictureHint")}</span>
      <input
        ref={input}
        type="file"
        className="visually-hidden"
        tabIndex={-1}
        aria-label={t("entry.addPicture")}
        accept="image/png,image/jpeg,image/webp"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void change(file);
        }}
      />
    </div>
  );
}
