import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t, when } from "../../words/words";
import type { Row } from "../../sheet/rowStore";
import type { Person } from "../../session/useSession";
import type { EntriesChanged } from "./useEntry";

interface Props {
  row: Row;
  me: Person;
  onSay: (sentence: string) => void;
  onDone: (changed: EntriesChanged) => void;
}

/** What became of the entry itself: made, renamed, rewritten, moved, removed; each step can be taken back. */
export function EntryStory({ row, me, onSay, onDone }: Props) {
  const [open, setOpen] = useState(false);
  const story = useQuery({
    queryKey: ["entry-story", row.id, row.version],
    queryFn: ({ signal }) => ask<Schemas["EntryLine"][]>(`/api/entries/${row.id}/story`, { signal }),
    enabled: open,
    staleTime: 30_000,
  });
  const putBack = (line: number) =>
    void ask<EntriesChanged>(`/api/entries/${row.id}/story/${line}/put-back`, {
      method: "POST",
      json: { version: row.version, meaningChanged: true },
    })
      .then(onDone)
      .catch((failure: unknown) => onSay(sentenceOf(failure)));
  return (
    <details className="entry-story" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>{t("entry.story")}</summary>
      {story.isError && <p className="wrong">{sentenceOf(story.error)}</p>}
      <ol className="story">
        {story.data?.map((line) => (
          <li key={line.id}>
            <span className="soft">{when(line.at)}</span>{" "}
            {t(`entryStory.${line.what as "added"}`, { who: line.person })}
            {line.file && <span className="soft"> {t("story.fromFile", { file: line.file })}</span>}
            {line.before !== undefined && line.before !== line.after && (
              <span className="said">
                <del>{line.before}</del>
              </span>
            )}
            {line.after !== undefined && <span className="said">{line.after}</span>}
            {me.coordinator && line.canBePutBack && line.what !== "added" && (
              <button type="button" className="putback" onClick={() => putBack(line.id)}>
                {t("entry.putBackBefore")}
              </button>
            )}
          </li>
        ))}
      </ol>
    </details>
  );
}
