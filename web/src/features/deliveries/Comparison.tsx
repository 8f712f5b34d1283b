import { Button, CircularProgress } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { DiffShown } from "../../text/TextShown";
import { inOrder } from "../../text/shapes";
import { wordDiff } from "../../text/wordDiff";
import { t, nameOfTag } from "../../words/words";
import { DELIVERIES } from "./useDeliveries";

interface Props {
  slug: string;
  from: number;
  to: number;
  /** Whether {@code to} is not made yet. */
  ahead: boolean;
  onClose: () => void;
}

/** What is different between two deliveries, or would be in the next one: files, and texts word by word. */
export function Comparison({ slug, from, to, ahead, onClose }: Props) {
  const address = `/api/products/${encodeURIComponent(slug)}/deliveries`;
  const compared = useQuery({
    // What is ahead is not among what is asked again whenever a text changes: all files are made for it.
    queryKey: ahead ? ["ahead", slug, from, to] : [DELIVERIES, slug, "compare", from, to],
    queryFn: ({ signal }) =>
      ask<Schemas["Compared"]>(ahead ? `${address}/ahead` : `${address}/compare?from=${from}&to=${to}`, { signal }),
    staleTime: ahead ? 0 : Infinity,
    retry: false,
  });
  const title = ahead ? t("compare.ahead", { from, to }) : t("compare.title", { from, to });
  const all = Object.values(compared.data?.languages ?? {}).reduce((sum, n) => sum + n, 0);
  return (
    <section aria-label={title}>
      <h2>
        {title}{" "}
        <Button size="small" onClick={onClose}>
          {t("compare.close")}
        </Button>
      </h2>
      {compared.error && <p className="wrong">{sentenceOf(compared.error)}</p>}
      {compared.isPending && <CircularProgress size={18} aria-label={t("ledger.loading")} />}
      {compared.data && (
        <>
          <p className="soft">
            {compared.data.files.length === 0
              ? t("compare.nothing", { n: compared.data.same })
              : t("compare.files", { n: compared.data.files.length, same: compared.data.same })}
          </p>
          <ul className="files">
            {compared.data.files.map((one) => (
              <li key={one.path}>
                <span className="mono">{one.path}</span> <small>{t(`compare.${one.what as "added"}`)}</small>
              </li>
            ))}
          </ul>
          {compared.data.texts.length > 0 && (
            <table className="listed">
              <tbody>
                {compared.data.texts.map((one) => (
                  <tr key={`${one.entry} ${one.language}`}>
                    <th scope="row" className="mono">
                      <Link to={`/ledger?product=${slug}&in=${one.language}&words=${encodeURIComponent(one.key)}`}>
                        {one.key}
                      </Link>
                    </th>
                    <td>{nameOfTag(one.language)}</td>
                    <td lang={one.language} dir="auto">
                      <DiffShown runs={wordDiff(joined(one.before), joined(one.after))} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {all > compared.data.texts.length && (
            <p className="soft">{t("compare.more", { n: all - compared.data.texts.length })}</p>
          )}
        </>
      )}
    </section>
  );
}

function joined(forms: Record<string, string> | undefined): string {
  return inOrder(forms ?? {})
    .map(([, text]) => text)
    .join(" / ");
}
