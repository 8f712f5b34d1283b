import {
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Divider,
  FormControlLabel,
  List,
  ListItem,
  ListItemText,
  MenuItem,
  TextField,
} from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { EntryDialog } from "../entry";
import { CountDialog, FillDialog } from "../filling";
import { LinesDialog } from "../recordings";
import type { Entries } from "../../sheet/entries";
import { writeScope, type Scope } from "../../scope/scope";
import { languagesOf } from "../../scope/scopeTables";
import { undoing } from "../../sheet/undoing";
import type { Person } from "../../session/useSession";
import { ActionMenu } from "../../parts/ActionMenu";
import "../../parts/form.css";

/** More would be a transaction of minutes; the server says the same. */
const MOST_CELLS = 20_000;

interface Props {
  me: Person;
  scope: Scope;
  tables: Schemas["TableReply"][];
  /** The entries of the scope, null while it is being opened. */
  entries: Entries | null;
  onSay: (sentence: string) => void;
  /** Entries were made or changed, so the scope has to be read again. */
  onEntries: () => void;
}

/** What can be done with the scope as a whole: keep it under a name, go to a kept one, answer every stale text in it, add an entry. */
export function ScopeMenu({ me, scope, tables, entries, onSay, onEntries }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [keeping, setKeeping] = useState(false);
  const [forgetting, setForgetting] = useState(false);
  const [creating, setCreating] = useState(false);
  const [filling, setFilling] = useState(false);
  const [counting, setCounting] = useState(false);
  const [tying, setTying] = useState(false);
  const navigate = useNavigate();
  const kept = useQuery({
    queryKey: ["scopes"],
    queryFn: ({ signal }) => ask<Schemas["KeptScope"][]>("/api/scopes", { signal }),
    enabled: anchor !== null || forgetting,
  });
  const mine = kept.data?.filter((one) => one.mine) ?? [];
  const answers = scope.languages.filter((tag) => me.coordinator || me.levels[tag] === "reviewer");
  const countable = languagesOf(tables).filter(({ language }) => scope.languages.includes(language.tag));
  const fillable = languagesOf(tables).filter(
    ({ language: { tag } }) =>
      scope.languages.includes(tag) && (me.coordinator || (me.levels[tag] ?? "reader") !== "reader"),
  );
  const only = tables.length === 1 ? tables[0] : undefined;
  const stale = useQuery({
    queryKey: ["stale", writeScope(scope)],
    queryFn: ({ signal }) => staleCells(scope, answers, signal),
    enabled: anchor !== null && answers.length > 0,
    staleTime: 0,
  });
  const stillHold = () => {
    setAnchor(null);
    const cells = stale.data ?? [];
    ask<Schemas["Many"]>("/api/cells/changes", {
      method: "POST",
      json: { action: "STILL_HOLDS", cells: cells.slice(0, MOST_CELLS), meaningConfirmed: false },
    })
      .then((many) => {
        undoing.did({ change: many.change, entries: cells.map((cell) => cell.entry) });
        onSay(t("scopes.holdDone", { n: many.changed }));
        onEntries();
      })
      .catch((failure: unknown) => onSay(sentenceOf(failure)));
  };
  return (
    <>
      <Button size="small" variant="outlined" aria-haspopup="menu" onClick={(event) => setAnchor(event.currentTarget)}>
        {t("scopes.open")}
      </Button>
      <ActionMenu label={t("scopes.open")} anchor={anchor} onClose={() => setAnchor(null)}>
        {fillable.length > 0 && (
          <MenuItem
            onClick={() => {
              setAnchor(null);
              setFilling(true);
            }}
          >
            {t("fill.open")}
          </MenuItem>
        )}
        {countable.length > 0 && (
          <MenuItem
            onClick={() => {
              setAnchor(null);
              setCounting(true);
            }}
          >
            {t("count.open")}
          </MenuItem>
        )}
        {me.coordinator && only && (
          <MenuItem
            onClick={() => {
              setAnchor(null);
              setCreating(true);
            }}
          >
            {t("scopes.newEntry", { table: only.name })}
          </MenuItem>
        )}
        {me.coordinator && only && (
          <MenuItem
            onClick={() => {
              setAnchor(null);
              setTying(true);
            }}
          >
            {t("recordings.open")}
          </MenuItem>
        )}
        {me.coordinator && only && (
          <MenuItem onClick={() => void navigate(`/tables/${only.slug}`)}>
            {t("scopes.settings", { table: only.name })}
          </MenuItem>
        )}
        {answers.length > 0 && (
          <MenuItem disabled={!entries || !stale.data?.length} onClick={stillHold}>
            {t("scopes.hold", { n: stale.data?.length ?? 0 })}
          </MenuItem>
        )}
        <MenuItem
          onClick={() => {
            setAnchor(null);
            setKeeping(true);
          }}
        >
          {t("scopes.keep")}
        </MenuItem>
        <Divider />
        {kept.data?.length === 0 && <MenuItem disabled>{t("scopes.none")}</MenuItem>}
        {kept.data?.map((one) => (
          <MenuItem
            key={one.id}
            selected={one.query === writeScope(scope)}
            onClick={() => {
              setAnchor(null);
              void navigate(`/ledger?${one.query}`);
            }}
          >
            <ListItemText primary={one.name} secondary={one.mine ? undefined : one.person} />
          </MenuItem>
        ))}
        {mine.length > 0 && <Divider />}
        {mine.length > 0 && (
          <MenuItem
            onClick={() => {
              setAnchor(null);
              setForgetting(true);
            }}
          >
            {t("scopes.forgetOne")}
          </MenuItem>
        )}
      </ActionMenu>
      {counting && <CountDialog scope={writeScope(scope)} languages={countable} onClose={() => setCounting(false)} />}
      {tying && only && (
        <LinesDialog
          table={only}
          onDone={(sentence) => {
            setTying(false);
            onSay(sentence);
            onEntries();
          }}
          onClose={() => setTying(false)}
        />
      )}
      {filling && (
        <FillDialog
          scope={writeScope(scope)}
          languages={fillable}
          onDone={(done) => {
            setFilling(false);
            if (!done) return;
            undoing.did({ change: done.change, entries: done.entries });
            onSay(done.said);
            onEntries();
          }}
        />
      )}
      {forgetting && <ForgetDialog kept={mine} onSay={onSay} onClose={() => setForgetting(false)} />}
      {keeping && <KeepDialog scope={scope} onSay={onSay} onClose={() => setKeeping(false)} />}
      {creating && only && (
        <EntryDialog
          table={only.slug}
          row={null}
          after={null}
          onDone={(changed) => {
            undoing.did({ change: changed.change, entries: changed.entries });
            setCreating(false);
            onEntries();
          }}
          onClose={() => setCreating(false)}
        />
      )}
    </>
  );
}

/** The stale cells of a scope in the languages that one may answer, found by the server a language at a time. */
async function staleCells(scope: Scope, languages: string[], signal: AbortSignal) {
  const cells: { entry: number; language: string }[] = [];
  for (const language of languages) {
    const query = writeScope({ ...scope, languages: [language], only: ["stale"] });
    const reply = await ask<Schemas["ScopeReply"]>(`/api/scope?${query}`, { signal });
    let id = 0;
    for (const delta of reply.deltas) {
      id += delta;
      cells.push({ entry: id, language });
    }
  }
  return cells;
}

/** One's own kept scopes, each of which can be forgotten. */
function ForgetDialog({
  kept,
  onSay,
  onClose,
}: {
  kept: Schemas["KeptScope"][];
  onSay: (sentence: string) => void;
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const forget = (id: number) =>
    void ask(`/api/scopes/${id}`, { method: "DELETE" })
      .then(() => queries.invalidateQueries({ queryKey: ["scopes"] }))
      .catch((failure: unknown) => onSay(sentenceOf(failure)));
  return (
    <Dialog open onClose={onClose} aria-labelledby="forget-title">
      <DialogTitle id="forget-title">{t("scopes.forgetTitle")}</DialogTitle>
      <DialogContent>
        {kept.length === 0 && <p className="soft">{t("scopes.none")}</p>}
        <List dense>
          {kept.map((one) => (
            <ListItem
              key={one.id}
              secondaryAction={
                <Button
                  size="small"
                  aria-label={t("scopes.forgetNamed", { name: one.name })}
                  onClick={() => forget(one.id)}
                >
                  {t("scopes.forget")}
                </Button>
              }
            >
              <ListItemText primary={one.name} />
            </ListItem>
          ))}
        </List>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("close")}</Button>
      </DialogActions>
    </Dialog>
  );
}

function KeepDialog({
  scope,
  onSay,
  onClose,
}: {
  scope: Scope;
  onSay: (sentence: string) => void;
  onClose: () => void;
}) {
  const [name, setName] = useState("");
  const [shared, setShared] = useState(false);
  const queries = useQueryClient();
  return (
    <Dialog open onClose={onClose} aria-labelledby="keep-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          ask("/api/scopes", { method: "POST", json: { name, query: writeScope(scope), shared } })
            .then(() => {
              void queries.invalidateQueries({ queryKey: ["scopes"] });
              onSay(t("scopes.kept", { name }));
              onClose();
            })
            .catch((failure: unknown) => onSay(sentenceOf(failure)));
        }}
      >
        <DialogTitle id="keep-title">{t("scopes.keepTitle")}</DialogTitle>
        <DialogContent className="entry-form">
          <TextField
            label={t("scopes.name")}
            size="small"
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <FormControlLabel
            control={<Checkbox size="small" checked={shared} onChange={(_, on) => setShared(on)} />}
            label={t("scopes.shared")}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={name.trim() === ""}>
            {t("scopes.keepDo")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
