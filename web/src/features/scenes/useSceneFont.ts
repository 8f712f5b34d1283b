import { useEffect, useState } from "react";

const loading = new Map<string, Promise<string>>();

/** The name under which a page knows the font of a product, once it is there; letters that it lacks are shown in the page's own. */
export function useSceneFont(product: string, font: number | null | undefined): string | undefined {
  const [ready, setReady] = useState({ font: 0, family: "" });
  useEffect(() => {
    if (!font) return undefined;
    let left = false;
    load(product, font).then(
      (name) => {
        if (!left) setReady({ font, family: `"${name}", "Source Sans 3", sans-serif` });
      },
      // It is shown in the page's own font then; the next look asks again.
      () => loading.delete(`${product} ${font}`),
    );
    return () => {
      left = true;
    };
  }, [product, font]);
  return font && ready.font === font ? ready.family : undefined;
}

function load(product: string, font: number): Promise<string> {
  const key = `${product} ${font}`;
  const known = loading.get(key);
  if (known) return known;
  const name = `scene-${font}`;
  const face = new FontFace(name, `url("${fontUrl(product, font)}")`);
  const loaded = face.load().then((ready) => {
    document.fonts.add(ready);
    return name;
  });
  loading.set(key, loaded);
  return loaded;
}

/** Where the font of a product is. */
export function fontUrl(product: string, font: number): string {
  return `/api/products/${product}/fonts/${font}/file`;
}
