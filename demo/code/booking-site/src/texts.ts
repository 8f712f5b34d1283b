const texts: Record<string, string> = {};

/** Says a text of the site; what is in braces is filled in. */
export function t(key: string, values: Record<string, string | number> = {}): string {
  return (texts[key] ?? key).replace(/\{(\w+)\}/g, (all, name: string) => String(values[name] ?? all));
}
