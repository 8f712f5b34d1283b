declare global {
  namespace JSX {
    interface IntrinsicElements {
      [tag: string]: Record<string, unknown>;
    }
    type Element = HTMLElement;
  }
}

type Child = HTMLElement | string | number | Child[];

/** Makes an element. */
export function h(tag: string, attributes: Record<string, unknown> | null, ...children: Child[]): HTMLElement {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes ?? {})) {
    element.setAttribute(name, String(value));
  }
  element.append(...children.flat().map(String));
  return element;
}
