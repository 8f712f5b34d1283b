import type { DiffRun } from "./wordDiff";
import { pieces } from "./pieces";
import { inOrder } from "./shapes";

/** A text with its placeholders as chips, which stay left to right in any text. */
export function TextShown({ text }: { text: string }) {
  return (
    <>
      {pieces(text).map((piece, at) =>
        piece.kind === "placeholder" ? (
          <bdi key={at} dir="ltr" className="chip">
            {piece.text}
          </bdi>
        ) : (
          piece.text
        ),
      )}
    </>
  );
}

/** What changed between two texts, word by word. */
export function DiffShown({ runs }: { runs: DiffRun[] }) {
  return (
    <>
      {runs.map((run, at) =>
        run.kind === "same" ? (
          <span key={at}>{run.text}</span>
        ) : run.kind === "gone" ? (
          <del key={at}>{run.text}</del>
        ) : (
          <ins key={at}>{run.text}</ins>
        ),
      )}
    </>
  );
}

/** A text of several forms, a line each. */
export function FormsShown({ forms, lang, dir }: { forms: Record<string, string>; lang: string; dir: "ltr" | "rtl" }) {
  if (forms.file !== undefined) {
    const address = `/api/assets/${forms.file}`;
    return (
      <p className="told">
        <a href={address} target="_blank" rel="noreferrer">
          {/\.(png|jpe?g|webp)$/i.test(forms.other ?? "") && <img className="asset" src={address} alt="" />}
          {forms.other}
        </a>
      </p>
    );
  }
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
