// Looks a text up. What is in braces is filled in.
const TEXTS = {};

export function say(key, fallback, values = {}) {
  const text = TEXTS[key] ?? fallback ?? key;
  return text.replace(/\{(\w+)\}/g, (all, name) => values[name] ?? all);
}
