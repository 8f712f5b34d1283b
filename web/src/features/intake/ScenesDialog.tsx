import { Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField } from "@mui/material";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Confirm } from "../../parts/Confirm";
import { useProducts } from "../../scope/useTables";
import { t } from "../../words/words";
import { useSceneFiles } from "../scenes";
import type { Dropped } from "./uploading";

interface Props {
  files: Dropped[];
  /** Takes them in as pictures that entries have per language. */
  onAssets: () => void;
  onClose: () => void;
}

/** Drawings and pictures that were dropped where texts come in: they are scenes of a product. */
export function ScenesDialog({ files, onAssets, onClose }: Props) {
  const products = useProducts();
  const navigate = useNavigate();
  const [slug, setSlug] = useState<string | null>(null);
  const [said, setSaid] = useState("");
  const product = slug ?? products.data?.[0]?.slug ?? "";
  const scenes = useSceneFiles(product, (added, words) => {
    if (added[0]) void navigate(`/rehearsal/${product}/${added[0].id}`, { state: { said: words } });
    else setSaid(words);
  });
  return (
    <Dialog open onClose={onClose} aria-labelledby="scenes-title">
      <DialogTitle id="scenes-title">{t("intake.scenes", { n: files.length })}</DialogTitle>
      <DialogContent className="entry-form">
        <p>{t("intake.scenesWords")}</p>
        {products.data?.length === 0 ? (
          <p className="wrong">{t("rehearsal.noProduct")}</p>
        ) : (
          <TextField
            select
            size="small"
            label={t("products.product")}
            value={product}
            onChange={(event) => setSlug(event.target.value)}
          >
            {(products.data ?? []).map((one) => (
              <MenuItem key={one.slug} value={one.slug}>
                {one.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        {said && (
          <p className="wrong" role="alert">
            {said}
          </p>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("cancel")}</Button>
        <Button onClick={onAssets}>{t("intake.scenesAsAssets")}</Button>
        <Button
          variant="contained"
          disabled={scenes.busy || product === ""}
          onClick={() => void scenes.add(files.map(({ file }) => file))}
        >
          {t("intake.takeScenes")}
        </Button>
      </DialogActions>
      {scenes.asking && (
        <Confirm
          title={t("rehearsal.there")}
          words={scenes.asking}
          action={t("rehearsal.replaceThere")}
          onYes={() => scenes.answer(true)}
          onNo={() => scenes.answer(false)}
        />
      )}
    </Dialog>
  );
}
