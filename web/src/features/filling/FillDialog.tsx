import {
  Alert,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
} from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { DiffShown, TextShown } from "../../text/TextShown";
import { wordDiff } from "../../text/wordDiff";
import { languageName, listed, t } from "../../words/words";
import { DraftRun } from "./DraftRun";
import "./filling.css";

type Hit = Schemas["FillHit"];

/** How alike sources must be, in percent. */
const LEAST = [100, 95, 85, 75];
const ROW = 64;

interface Props {
  /** The scope to look through, as its query string. */
  scope: string;
  /** Those whose texts one may change; the first is chosen at first. */
  languages: Schemas["LanguageReply"][];
  /** Called when the dialog closes; with what was done when something was. */
  onDone: (done: { change: number; entries: number[]; said: string } | null) => void;
}

/** Fills untranslated texts with what was settled for the same or a similar source: each is seen before, all arrive pencilled, one undo takes them back. */
export function FillDialog({ scope, languages, onDone }: Props) {
  const [where, setWhere] = useState(languages[0]?.language.tag ?? "");
  const [least, setLeast] = useState(100);
  const [first, setFirst] = useState(0);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [busy, setBusy] = useState(false);
  const [service, setService] = useState(0);
  const [change, setChange] = useState(0);
  const [wrong, setWrong] = useState("");
  const going = useRef(false);
  const choices = useQuery({
    queryKey: ["drafting", where],
    queryFn: ({ signal }) =>
      ask<Schemas["DraftChoice"][]>(`/api/drafting/choices?language=${encodeURIComponent(where)}`, { signal }),
    enabled: where !== "",
  });
  const found = useQuery({
    queryKey: ["fill", scope, where, least, first, service],
    queryFn: ({ signal }) =>
      ask<Schemas["Fill"]>("/api/fill/preview", {
        method: "POST",
        json: { scope, language: where, least, first, ...(service > 0 ? { service } : {}) },
        signal,
      }),
    // What was settled a moment ago counts.
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  const hits = found.data?.hits ?? [];
  const chosen = hits.filter((hit) => !left.has(hit.entry));
  const language = languages.find((one) => one.language.tag === where)?.language;
  const again = (from: number) => {
    setFirst(from);
    setLeft(new Set());
  };
  const next = found.data?.next;
  const plan = found.data?.plan;
  const drafts = service && plan && plan.texts > 0 ? (found.data?.rest ?? []) : [];
  const fill = async () => {
    // A second press comes before the first is drawn.
    if (going.current) return;
    going.current = true;
    setBusy(true);
    setWrong("");
    try {
      if (drafts.length > 0) {
        const begun = await ask<Schemas["FillBegun"]>("/api/fill", {
          method: "POST",
          json: {
            scope,
            language: where,
            service,
            known: chosen.map(({ entry, version, text, fromEntry, fromUnit }) => ({
              entry,
              version,
              text,
              fromEntry,
              fromUnit,
            })),
            drafts,
          },
        });
        setChange(begun.change);
        return;
      }
      const done = await ask<Schemas["Many"]>("/api/cells/changes", {
        method: "POST",
        json: {
          action: "PENCIL",
          how: "MEMORY",
          meaningConfirmed: false,
          cells: chosen.map(({ entry, version, text }) => ({ entry, language: where, version, text })),
        },
      });
      const refused =
        done.refusedInAll > 0
          ? ` ${t("select.refused", { n: done.refusedInAll, why: done.refused[0]?.sentence ?? "" })}`
          : "";
      onDone({
        change: done.change,
        entries: chosen.map(({ entry }) => entry),
        said: t("fill.done", { n: done.changed }) + refused,
      });
    } catch (failure) {
      going.current = false;
      setWrong(sentenceOf(failure));
      setBusy(false);
    }
  };
  if (change > 0) {
    return (
      <DraftRun
        change={change}
        onDone={(done) =>
          onDone({
            change,
            entries: [...chosen, ...drafts].map(({ entry }) => entry),
            said: t("fill.done", { n: done.known + done.drafted }),
          })
        }
        onFailed={(sentence) => {
          going.current = false;
          setChange(0);
          setBusy(false);
          setWrong(sentence);
          void found.refetch();
        }}
      />
    );
  }
  return (
    <Dialog open onClose={() => onDone(null)} maxWidth="md" fullWidth aria-labelledby="fill-title">
      <DialogTitle id="fill-title">{t("fill.title")}</DialogTitle>
      <DialogContent className="filling">
        <div className="fields">
          <TextField
            select
            size="small"
            label={t("fill.in")}
            value={where}
            onChange={(event) => {
              setWhere(event.target.value);
              setService(0);
              again(0);
            }}
          >
            {languages.map(({ language: one }) => (
              <MenuItem key={one.tag} value={one.tag}>
                {languageName(one)}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label={t("fill.from")}
            value={least}
            onChange={(event) => {
              setLeast(Number(event.target.value));
              again(0);
            }}
          >
            {LEAST.map((one) => (
              <MenuItem key={one} value={one}>
                {one === 100 ? t("fill.same") : t("fill.similar", { n: one })}
              </MenuItem>
            ))}
          </TextField>
          {(choices.data?.length ?? 0) > 0 && (
            <TextField
              select
              size="small"
              label={t("fill.then")}
              value={service}
              onChange={(event) => {
                setService(Number(event.target.value));
                again(0);
              }}
            >
              <MenuItem value={0}>{t("fill.noDrafts")}</MenuItem>
              {choices.data?.map(({ id, name }) => (
                <MenuItem key={id} value={id}>
                  {t("fill.draftsOf", { service: name })}
                </MenuItem>
              ))}
            </TextField>
          )}
        </div>
        {(wrong || found.error) && (
          <Alert
            severity="error"
            action={found.error ? <Button onClick={() => void found.refetch()}>{t("retry")}</Button> : undefined}
          >
            {wrong || sentenceOf(found.error)}
          </Alert>
        )}
        <p role="status" className="soft">
          {found.data ? summary(found.data) : found.isFetching ? t("replace.looking") : ""}
        </p>
        {plan && <PlanShown plan={plan} />}
        {hits.length > 0 && <FillList hits={hits} left={left} onLeft={setLeft} language={language} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onDone(null)}>{t("cancel")}</Button>
        {next !== undefined && next !== null && <Button onClick={() => again(next)}>{t("fill.further")}</Button>}
        <Button variant="contained" disabled={chosen.length + drafts.length === 0 || busy} onClick={() => void fill()}>
          {drafts.length > 0
            ? t("fill.doAndDraft", { n: chosen.length, drafts: plan?.texts ?? 0 })
            : t("fill.do", { n: chosen.length })}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What having the rest drafted would be: how much leaves, and whether the service may still be sent that. */
function PlanShown({ plan }: { plan: Schemas["DraftPlan"] }) {
  const { texts, characters, left, withheld, unfit } = plan;
  return (
    <p className={characters > left ? "wrong" : "soft"}>
      {t("fill.plan", { n: texts, characters, left })}
      {characters > left && ` ${t("fill.tooMuch")}`}
      {withheld > 0 && ` ${t("fill.withheld", { n: withheld })}`}
      {unfit > 0 && ` ${t("fill.unfit", { n: unfit })}`}
    </p>
  );
}

function summary({ hits, untranslated, next }: Schemas["Fill"]): string {
  const same = hits.filter(({ percent }) => percent === 100).length;
  const counted = t("fill.counted", {
    same,
    similar: hits.length - same,
    left: untranslated - hits.length,
  });
  return next ? `${counted} ${t("fill.more")}` : counted;
}

/** What each text would be and where it comes from, to be ticked; only the rows in sight exist. */
function FillList(props: {
  hits: Hit[];
  left: ReadonlySet<number>;
  onLeft: (left: ReadonlySet<number>) => void;
  language: Schemas["LanguageName"] | undefined;
}) {
  const { hits, left, onLeft, language } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: hits.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const toggle = (entry: number) => {
    const next = new Set(left);
    if (!next.delete(entry)) next.add(entry);
    onLeft(next);
  };
  return (
    <>
      <label>
        <Checkbox
          size="small"
          checked={left.size === 0}
          indeterminate={left.size > 0 && left.size < hits.length}
          onChange={(_, on) => onLeft(on ? new Set() : new Set(hits.map(({ entry }) => entry)))}
        />
        {t("replace.all")}
      </label>
      <div ref={scroller} className="fills" role="list" tabIndex={0} aria-label={t("fill.texts")}>
        <div style={{ height: virtual.getTotalSize() }} role="presentation">
          {virtual.getVirtualItems().map((item) => {
            const hit = hits[item.index];
            if (!hit) return null;
            return (
              <div
                key={hit.entry}
                role="listitem"
                className="fill"
                ref={virtual.measureElement}
                data-index={item.index}
                style={{ transform: `translateY(${item.start}px)` }}
              >
                <Checkbox
                  size="small"
                  checked={!left.has(hit.entry)}
                  slotProps={{ input: { "aria-label": hit.key } }}
                  onChange={() => toggle(hit.entry)}
                />
                <span>
                  <code>{hit.key}</code>{" "}
                  {hit.percent === 100 ? (
                    <TextShown text={hit.source} />
                  ) : (
                    <DiffShown runs={wordDiff(hit.otherSource, hit.source)} />
                  )}
                </span>
                <span>
                  <bdi lang={language?.tag} dir={language?.rightToLeft ? "rtl" : "ltr"}>
                    <TextShown text={hit.text} />
                  </bdi>
                  <small className="soft">{origin(hit)}</small>
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </>
  );
}

/** Where a text comes from, and what was changed in it. */
function origin({ percent, from, table, adapted }: Hit): string {
  const alike = t(percent === 100 ? "fill.ofSame" : "fill.ofSimilar", { percent, from, table });
  if (adapted.length === 0) return alike;
  const what = listed(adapted.map(({ from: old = "", to = "" }) => t("memory.instead", { from: old, to })));
  return `${alike}; ${t("memory.adapted", { what })}`;
}
