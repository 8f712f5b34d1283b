import { Alert, Button } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { useProducts } from "../../scope/useTables";
import { dropKept, readKept, thisTab, writeKept } from "../../sheet/outbox/browserStore";
import { t } from "../../words/words";
import { BoxFields } from "./BoxFields";
import { paintedIn, type Painted } from "./colours";
import { Marking } from "./Marking";
import { boxesIn, drawingOf, pictureIn, type Box } from "./places";
import { useBoxes } from "./useBoxes";
import "./marking.css";

/** Places are marked on a picture: boxes, each with the entry that is shown there. */
export function MarkPage() {
  const { slug = "", scene = "" } = useParams();
  const products = useProducts();
  const product = products.data?.find((one) => one.slug === slug);
  // Read once, and not from what was read before: what somebody else changes meanwhile is told when it is saved.
  const played = useQuery({
    queryKey: ["marks", slug, scene],
    queryFn: ({ signal }) =>
      ask<Schemas["Played"]>(`/api/products/${slug}/scenes/${encodeURIComponent(scene)}?play=keys`, { signal }),
    staleTime: Infinity,
    gcTime: 0,
  });
  const first = played.data;
  const picture = first ? pictureIn(first.drawing) : null;
  return first && product && picture ? (
    <Marks product={product} scene={first} picture={picture} />
  ) : (
    <Frame title={t("marks.title", { scene: first?.name ?? "…" })}>
      <div className="empty">
        {played.error ? (
          <Alert severity="error">{sentenceOf(played.error)}</Alert>
        ) : first && !picture ? (
          <p>{t("marks.noPicture")}</p>
        ) : (
          <p className="soft">{t("ledger.loading")}</p>
        )}
        <Link to={`/rehearsal/${slug}/${scene}`}>{t("marks.back")}</Link>
      </div>
    </Frame>
  );
}

interface Props {
  product: Schemas["ProductReply"];
  scene: Schemas["Played"];
  picture: string;
}

interface KeptMarks {
  version: number;
  boxes: Box[];
}

const isKept = (kept: unknown): kept is KeptMarks =>
  typeof kept === "object" && kept !== null && "version" in kept && "boxes" in kept && Array.isArray(kept.boxes);

function Marks({ product, scene, picture }: Props) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { width, height } = scene;
  const name = `mellow.marks.${scene.id}`;
  const [begun] = useState(() => {
    const kept = readKept(thisTab, name, isKept);
    return { saved: boxesIn(scene.drawing, scene.places), kept: kept?.version === scene.version ? kept.boxes : null };
  });
  const { boxes, chosen, before, after, tell } = useBoxes(begun.kept ?? begun.saved, width, height);
  const [said, setSaid] = useState(begun.kept ? t("marks.kept") : "");
  const [saving, setSaving] = useState(false);
  const pixels = usePixels(picture, width, height);
  const unsaved = JSON.stringify(boxes) !== JSON.stringify(begun.saved);
  // What is marked outlives a reload of the page.
  useEffect(() => {
    if (unsaved) writeKept(thisTab, name, { version: scene.version, boxes });
    else dropKept(thisTab, name);
  }, [unsaved, name, scene.version, boxes]);
  const add = (part: Pick<Box, "x" | "y" | "width" | "height">) => {
    const painted = pixels(part) ?? { cover: "#ffffff", color: "#000000" };
    const box: Box = {
      key: "",
      lines: 1,
      size: Math.max(8, Math.min(48, Math.round(part.height * 0.55))),
      align: "start",
      keeps: false,
      latinDigits: false,
      sample: {},
      ...painted,
      ...part,
    };
    tell({ do: "add", box });
  };
  const save = async () => {
    const nameless = boxes.findIndex(({ key }) => key.trim() === "");
    if (nameless >= 0) {
      tell({ do: "choose", index: nameless });
      setSaid(t("marks.nameless", { n: nameless + 1 }));
      return;
    }
    setSaving(true);
    try {
      const drawing = drawingOf({ href: picture, width, height }, boxes);
      await ask<Schemas["ScenesAdded"]>(
        `/api/products/${product.slug}/scenes?name=${encodeURIComponent(scene.name)}&replaces=${scene.version}`,
        { method: "POST", bytes: new Blob([drawing], { type: "image/svg+xml" }) },
      );
      dropKept(thisTab, name);
      await queries.invalidateQueries({ queryKey: ["scenes"] });
      void navigate(`/rehearsal/${product.slug}/${scene.id}`);
    } catch (failure) {
      setSaid(sentenceOf(failure));
      setSaving(false);
    }
  };
  const box = boxes[chosen];
  return (
    <Frame
      title={t("marks.title", { scene: scene.name })}
      aside={
        <>
          <Button size="small" disabled={before.length === 0} onClick={() => tell({ do: "undo" })}>
            {t("marks.undo")}
          </Button>
          <Button size="small" disabled={after.length === 0} onClick={() => tell({ do: "redo" })}>
            {t("marks.redo")}
          </Button>
          <Button size="small" variant="outlined" component={Link} to={`/rehearsal/${product.slug}/${scene.id}`}>
            {t("marks.back")}
          </Button>
          <Button size="small" variant="contained" disabled={saving || !unsaved} onClick={() => void save()}>
            {t(saving ? "marks.saving" : "marks.save")}
          </Button>
        </>
      }
    >
      <div
        className="marks"
        onKeyDown={(event) => {
          const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
          if (typing || !(event.ctrlKey || event.metaKey)) return;
          const key = event.key.toLowerCase();
          if (key === "z" || key === "y") {
            event.preventDefault();
            tell({ do: key === "y" || event.shiftKey ? "redo" : "undo" });
          }
        }}
      >
        <div className="picture">
          {said && (
            <Alert severity="info" onClose={() => setSaid("")}>
              {said}
            </Alert>
          )}
          <Marking
            picture={picture}
            width={width}
            height={height}
            boxes={boxes}
            chosen={chosen}
            tell={tell}
            onAdd={add}
          />
          <p className="soft">{t("marks.keys")}</p>
        </div>
        <aside aria-label={t("marks.places")}>
          <Button
            size="small"
            variant="outlined"
            onClick={() => add({ x: width / 2 - 80, y: height / 2 - 16, width: 160, height: 32 })}
          >
            {t("marks.new")}
          </Button>
          {boxes.length === 0 && <p className="soft">{t("marks.none")}</p>}
          <ol>
            {boxes.map(({ key }, at) => (
              <li key={at}>
                <button type="button" aria-pressed={at === chosen} onClick={() => tell({ do: "choose", index: at })}>
                  <code>{key || t("marks.noKey")}</code>
                </button>
              </li>
            ))}
          </ol>
          {box && (
            <BoxFields
              key={chosen}
              product={product}
              box={box}
              number={chosen + 1}
              onBox={(next) => tell({ do: "set", index: chosen, box: next, goesOn: false })}
              onRemove={() => tell({ do: "remove", index: chosen })}
            />
          )}
        </aside>
      </div>
    </Frame>
  );
}

/** What is painted in a part of a picture, once it is there. */
function usePixels(picture: string, width: number, height: number) {
  const canvas = useRef<CanvasRenderingContext2D | null>(null);
  useEffect(() => {
    let left = false;
    const image = new Image();
    image.src = picture;
    image.decode().then(
      () => {
        if (left) return;
        const drawn = document.createElement("canvas");
        drawn.width = width;
        drawn.height = height;
        const context = drawn.getContext("2d", { willReadFrequently: true });
        context?.drawImage(image, 0, 0, width, height);
        canvas.current = context;
      },
      // A picture that the browser cannot show has no colours to take; boxes are black on white then.
      () => undefined,
    );
    return () => {
      left = true;
    };
  }, [picture, width, height]);
  return ({ x, y, width: wide, height: high }: Pick<Box, "x" | "y" | "width" | "height">): Painted | null => {
    const pixels = canvas.current?.getImageData(Math.round(x), Math.round(y), Math.max(1, wide), Math.max(1, high));
    return pixels ? paintedIn(pixels) : null;
  };
}
