import { Button } from "@mui/material";
import { useRef, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { Confirm } from "../../parts/Confirm";
import { t } from "../../words/words";
import type { SceneFiles } from "../scenes";

interface Props {
  scenes: Schemas["SceneReply"][];
  /** The number of the scene that is open. */
  open: number | undefined;
  counts: Schemas["SceneCounts"][];
  /** The address of a scene. */
  at: (scene: number) => string;
  /** How files come in, null for those who may not bring any. */
  files: SceneFiles | null;
}

/** The scenes of a product with what is to be mended in them; a file dropped on them is taken in. */
export function SceneList({ scenes, open, counts, at, files }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const said = (scene: Schemas["SceneReply"]) => {
    if (scene.unknown > 0) return t("rehearsal.unknown", { n: scene.unknown });
    const wrong = counts.filter((one) => one.scene === scene.id).reduce((sum, one) => sum + one.wrong, 0);
    return wrong > 0 ? t("rehearsal.toMend", { n: wrong }) : t("rehearsal.places", { n: scene.places });
  };
  const bad = (scene: Schemas["SceneReply"]) =>
    scene.unknown > 0 || counts.some((one) => one.scene === scene.id && one.wrong > 0);
  return (
    <nav
      className={over ? "scenes over" : "scenes"}
      aria-label={t("rehearsal.scenes")}
      onDragOver={(event) => {
        if (!files) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        if (!files) return;
        event.preventDefault();
        setOver(false);
        void files.add([...event.dataTransfer.files]);
      }}
    >
      {scenes.map((one) => (
        <Link key={one.id} to={at(one.id)} aria-current={one.id === open ? "page" : undefined}>
          <b>{one.name}</b>
          <small className={bad(one) ? "wrong" : "soft"}>{said(one)}</small>
        </Link>
      ))}
      {files && (
        <>
          <Button variant="outlined" size="small" disabled={files.busy} onClick={() => input.current?.click()}>
            {files.busy ? t("rehearsal.coming") : t("rehearsal.new")}
          </Button>
          <p className="soft">{t("rehearsal.newWords")}</p>
          <input
            ref={input}
            type="file"
            multiple
            accept=".svg,.png,.jpg,.jpeg,.webp,.zip,image/svg+xml"
            hidden
            aria-label={t("rehearsal.file")}
            onChange={(event) => {
              const chosen = [...(event.target.files ?? [])];
              event.target.value = "";
              void files.add(chosen);
            }}
          />
          {files.asking && (
            <Confirm
              title={t("rehearsal.there")}
              words={files.asking}
              action={t("rehearsal.replaceThere")}
              onYes={() => files.answer(true)}
              onNo={() => files.answer(false)}
            />
          )}
        </>
      )}
    </nav>
  );
}
