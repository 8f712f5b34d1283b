import { useRef, useState } from "react";
import { ask, Refused, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";

export interface SceneFiles {
  /** Takes files in, one after the other. */
  add: (files: File[]) => Promise<void>;
  busy: boolean;
  /** What is there already and would be replaced, in a sentence; null when nothing is asked. */
  asking: string | null;
  answer: (replace: boolean) => void;
}

/**
 * Takes drawings, pictures and archives of them in as scenes. One of a name that is there already is asked about.
 *
 * @param onAdded - told once for all files: the scenes that came, and what is to be said of them
 */
export function useSceneFiles(
  product: string,
  onAdded: (scenes: Schemas["SceneReply"][], said: string) => void,
): SceneFiles {
  const [busy, setBusy] = useState(false);
  const [asking, setAsking] = useState<string | null>(null);
  const answering = useRef<(replace: boolean) => void>(() => undefined);
  const send = (file: File, anyway: boolean) =>
    ask<Schemas["ScenesAdded"]>(
      `/api/products/${product}/scenes?name=${encodeURIComponent(file.name)}${anyway ? "&anyway=true" : ""}`,
      { method: "POST", bytes: file },
    );
  const sendOrAsk = async (file: File): Promise<Schemas["ScenesAdded"] | null> => {
    try {
      return await send(file, false);
    } catch (failure) {
      if (!(failure instanceof Refused && failure.code === "scene-exists")) throw failure;
      const yes = await new Promise<boolean>((resolve) => {
        answering.current = resolve;
        setAsking(sentenceOf(failure));
      });
      setAsking(null);
      return yes ? await send(file, true) : null;
    }
  };
  const add = async (files: File[]) => {
    if (files.length === 0) return;
    setBusy(true);
    const scenes: Schemas["SceneReply"][] = [];
    const said: string[] = [];
    for (const file of files) {
      try {
        const added = await sendOrAsk(file);
        if (!added) continue;
        scenes.push(...added.scenes);
        said.push(...added.leftOut);
      } catch (failure) {
        said.push(sentenceOf(failure));
      }
    }
    setBusy(false);
    const [first] = scenes;
    if (first && scenes.length === 1) {
      said.unshift(
        first.picture && first.places === 0
          ? t("rehearsal.pictureAdded", { name: first.name })
          : t("rehearsal.added", { name: first.name, n: first.places }),
      );
    } else if (scenes.length > 1) {
      said.unshift(t("rehearsal.manyAdded", { n: scenes.length }));
    }
    onAdded(scenes, said.join(" "));
  };
  return { add, busy, asking, answer: (replace) => answering.current(replace) };
}
