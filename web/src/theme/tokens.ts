/** Colours of the book by what they are, for the day and for the lamp. All text pairs pass WCAG 2.2 AA; the theme test computes them. */
export interface Tokens {
  desk: string;
  page: string;
  page2: string;
  rule: string;
  ruleStrong: string;
  ink: string;
  soft: string;
  dry: string;
  verdigris: string;
  verdigrisWash: string;
  ochre: string;
  ochreWash: string;
  indigo: string;
  indigoWash: string;
  madder: string;
  onVerdigris: string;
}

export const day: Tokens = {
  desk: "#EDE6D8",
  page: "#FFFDF8",
  page2: "#FBF6EB",
  rule: "#E3D9C6",
  ruleStrong: "#CDBFA5",
  ink: "#22303C",
  soft: "#5C6672",
  dry: "#2C3E50",
  verdigris: "#1E6B66",
  verdigrisWash: "#EFF5F1",
  ochre: "#9A5B0B",
  ochreWash: "#F7E8C8",
  indigo: "#41468C",
  indigoWash: "#E4E4F3",
  madder: "#96304A",
  onVerdigris: "#FFFFFF",
};

export const lamp: Tokens = {
  desk: "#171410",
  page: "#221E18",
  page2: "#2A251E",
  rule: "#3A342B",
  ruleStrong: "#5A5041",
  ink: "#EFE7D8",
  soft: "#B9AE9B",
  dry: "#C8D2DB",
  verdigris: "#79C7BF",
  verdigrisWash: "#24302C",
  ochre: "#E3AC63",
  ochreWash: "#45351C",
  indigo: "#B4B8F2",
  indigoWash: "#34344F",
  madder: "#F09AAE",
  onVerdigris: "#12302D",
};

/** Contrast of two colours by WCAG 2.2 (relative luminance), 1 to 21. */
export function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

function luminance(colour: string): number {
  const channel = (at: number) => {
    const value = parseInt(colour.slice(at, at + 2), 16) / 255;
    return value <= 0.03928 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * channel(1) + 0.7152 * channel(3) + 0.0722 * channel(5);
}
