import type { ReactNode } from "react";
import { AssetLarge } from "../asset/AssetShown";
import type { Facts } from "../asset/assets";
import type { DiffRun } from "./wordDiff";
import { pieces } from "./pieces";
import { inOrder } from "./shapes";
import { runs, type Run, type Spot } from "./spots";
import "./text.css";

const NONE: Spot[] = [];

/** A text with its placeholders as chips, which stay left to right in any text, and the places underlined where something was found. */
export function TextShown({ text, signs = false, spots = NONE }: { text: string; signs?: boolean; spots?: Spot[] }) {
  if (spots.length > 0) {
    return (
      <>
        {runs(text, spots).map((run, at) => (
          <FoundRun key={at} run={run}>
            <TextShown text={run.text} signs={signs} />
          </FoundRun>
        ))}
      </>
    );
  }
  return (
    <>
      {pieces(text).map((piece, at) =>
        piece.kind === "placeholder" ? (
          <bdi key={at} dir="ltr" className="chip">
            {piece.text}
          </bdi>
        ) : (
          <Signs key={at} text={piece.text} shown={signs} />
        ),
      )}
    </>
  );
}

/** A run of a text, underlined where something was found. */
export function FoundRun({ run, children }: { run: Run; children: ReactNode }) {
  const tone = run.found;
  return tone === null ? children : <span className={`spot ${tone}`}>{children}</span>;
}

/** Words with spaces and line breaks as signs that take no room of their own. */
export function Signs({ text, shown }: { text: string; shown: boolean }) {
  if (!shown) return text;
  return text.split(/([ \u00a0\n\t])/).map((part, at) =>
    part === "\n" ? (
      <span key={at} className="sign break">
        {part}
      </span>
    ) : part === " " || part === "\t" ? (
      <span key={at} className="sign space">
        {part}
      </span>
    ) : part === "\u00a0" ? (
      <span key={at} className="sign hard">
        {part}
      </span>
    ) : (
      part
    ),
  );
}

/** What changed between two texts, word by word. */
export function DiffShown({ runs }: { runs: DiffRun[] }) {
  return (
    <>
      {runs.map((run, at) =>
        run.kind === "same" ? (
          <TextShown key={at} text={run.text} />
        ) : run.kind === "gone" ? (
          <del key={at}>
            <TextShown text={run.text} />
          </del>
        ) : (
          <ins key={at}>
            <TextShown text={run.text} />
          </ins>
        ),
      )}
    </>
  );
}

/** A text of several forms, a line each. */
export function FormsShown({
  forms,
  lang,
  dir,
  facts,
}: {
  forms: Record<string, string>;
  lang: string;
  dir: "ltr" | "rtl";
  /** What the files are that a text of shape asset may name. */
  facts?: Record<string, Facts>;
}) {
  if (forms.file !== undefined) return <AssetLarge forms={forms} facts={facts} />;
  return (
    <dl className="told forms">
      {inOrder(forms).map(([form, text]) => (
        <div key={form}>
          <dt>{form}</dt>
          <dd lang={lang} dir={dir}>
            <TextShown text={text} />
          </dd>
        </div>
      ))}
    </dl>
  );
}
