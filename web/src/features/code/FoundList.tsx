import { Alert, Button, CircularProgress } from "@mui/material";
import type { UseInfiniteQueryResult, InfiniteData } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { sentenceOf } from "../../api/client";
import { t } from "../../words/words";

interface Props<Row> {
  found: UseInfiniteQueryResult<InfiniteData<Row[]>>;
  /** What the table is. */
  label: string;
  /** Its columns; an empty one is for what can be done. */
  heads: ReactNode[];
  /** What is said when there is nothing. */
  none: string;
  children: (rows: Row[]) => ReactNode;
}

/** A list of what was found, with more of it on demand. */
export function FoundList<Row>({ found, label, heads, none, children }: Props<Row>) {
  if (found.error) {
    return (
      <Alert severity="error" action={<Button onClick={() => void found.refetch()}>{t("retry")}</Button>}>
        {sentenceOf(found.error)}
      </Alert>
    );
  }
  if (!found.data) return <CircularProgress size={22} aria-label={t("ledger.loading")} />;
  const rows = found.data.pages.flat();
  if (rows.length === 0) return <p className="soft">{none}</p>;
  return (
    <>
      <div className="finds" role="region" aria-label={label} tabIndex={0}>
        <table>
          <thead>
            <tr>
              {heads.map((head, at) => (
                <th key={at} scope="col">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>{children(rows)}</tbody>
        </table>
      </div>
      {found.hasNextPage && (
        <Button size="small" disabled={found.isFetchingNextPage} onClick={() => void found.fetchNextPage()}>
          {t("code.more")}
        </Button>
      )}
    </>
  );
}

/** A place in code: its file and line, and what stands there. */
export function PlaceShown({ at }: { at: { path: string; line: number; around: string } }) {
  return (
    <>
      <bdi className="place">
        {at.path}:{at.line}
      </bdi>
      <code dir="ltr">{at.around}</code>
    </>
  );
}
