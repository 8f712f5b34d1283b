import {
  Alert,
  Button,
  CircularProgress,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Snackbar,
  TextField,
} from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { count, listed, nameOfTag, t, when } from "../../words/words";

type Shelf = Schemas["Shelf"];

/** Memories from elsewhere: brought as TMX files, asked in an order, taken out again. */
export function ShelvesView() {
  const queries = useQueryClient();
  const shelves = useQuery({
    queryKey: ["memory", "shelves"],
    queryFn: ({ signal }) => ask<Shelf[]>("/api/memory/shelves", { signal }),
  });
  const [open, setOpen] = useState<Shelf | null>(null);
  const [busy, setBusy] = useState("");
  const [wrong, setWrong] = useState<string[]>([]);
  const [said, setSaid] = useState<{ words: string; back?: number } | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  const into = useRef<Shelf | null>(null);
  const pick = (shelf: Shelf | null) => {
    into.current = shelf;
    picker.current?.click();
  };
  const again = () => queries.invalidateQueries({ queryKey: ["memory"] });
  const bring = async (files: File[], shelf: Shelf | null) => {
    const problems: string[] = [];
    let units = 0;
    let fresh = 0;
    for (const file of files) {
      setBusy(t("shelves.bringing", { file: file.name }));
      const query = String(
        new URLSearchParams(
          shelf ? { file: file.name } : { file: file.name, name: file.name.replace(/\.[^.]*$/, "") || file.name },
        ),
      );
      const at = shelf ? `/api/memory/shelves/${shelf.id}/files` : "/api/memory/shelves";
      try {
        const done = await ask<Schemas["ShelfFilled"]>(`${at}?${query}`, { method: "POST", bytes: file });
        units += done.units;
        fresh += done.fresh;
        problems.push(...done.problems);
      } catch (failure) {
        problems.push(`${file.name}: ${sentenceOf(failure)}`);
      }
    }
    setBusy("");
    setWrong(problems);
    if (units > 0) setSaid({ words: t("shelves.brought", { n: units, fresh }) });
    await again();
  };
  const doing = (work: Promise<unknown>, words: string, back?: number) =>
    void work.then(() => setSaid({ words, back })).then(again, (failure: unknown) => setWrong([sentenceOf(failure)]));
  return (
    <div
      className="shelves"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        if (!busy) void bring([...event.dataTransfer.files], null);
      }}
    >
      <input
        ref={picker}
        type="file"
        hidden
        multiple
        accept=".tmx,.xml"
        aria-label={t("shelves.bring")}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          if (files.length > 0) void bring(files, into.current);
        }}
      />
      <div className="asks">
        <Button variant="contained" size="small" disabled={busy !== ""} onClick={() => pick(null)}>
          {t("shelves.bring")}
        </Button>
        {busy ? (
          <span role="status">
            <CircularProgress size={16} aria-hidden="true" /> {busy}
          </span>
        ) : (
          <span className="soft">{t("shelves.words")}</span>
        )}
      </div>
      {wrong.length > 0 && (
        <Alert severity="warning" onClose={() => setWrong([])}>
          <ul className="leftout">
            {wrong.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </Alert>
      )}
      {shelves.error ? (
        <Alert severity="error" action={<Button onClick={() => void shelves.refetch()}>{t("retry")}</Button>}>
          {sentenceOf(shelves.error)}
        </Alert>
      ) : !shelves.data ? (
        <CircularProgress size={22} aria-label={t("ledger.loading")} />
      ) : shelves.data.length === 0 ? (
        <p className="soft">{t("shelves.none")}</p>
      ) : (
        <div className="units" role="region" aria-label={t("memory.view.shelves")} tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th scope="col">{t("shelves.rank")}</th>
                <th scope="col">{t("shelves.name")}</th>
                <th scope="col">{t("shelves.pairs")}</th>
                <th scope="col">{t("shelves.deduction")}</th>
                <th scope="col">{t("memory.used")}</th>
                <th scope="col">
                  <span className="visually-hidden">{t("fills.do")}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {shelves.data.map((shelf) => (
                <tr key={shelf.id}>
                  <td>{count(shelf.rank)}</td>
                  <th scope="row">
                    {shelf.name}
                    <small className="soft">
                      {shelf.person} · {when(shelf.madeAt)}
                    </small>
                  </th>
                  <td>
                    {listed(
                      shelf.pairs.map(({ from, to, units }) =>
                        t("shelves.pair", { from: nameOfTag(from), to: nameOfTag(to), n: units }),
                      ),
                    )}
                  </td>
                  <td>{shelf.deduction > 0 ? t("shelves.less", { n: shelf.deduction }) : ""}</td>
                  <td>{shelf.used > 0 ? count(shelf.used) : ""}</td>
                  <td className="does">
                    <Button size="small" onClick={() => setOpen(shelf)}>
                      {t("shelves.change")}
                    </Button>
                    <Button size="small" disabled={busy !== ""} onClick={() => pick(shelf)}>
                      {t("shelves.addFile")}
                    </Button>
                    <Button size="small" component="a" href={`/api/memory/shelves/${shelf.id}/tmx`} download>
                      {t("shelves.out")}
                    </Button>
                    <Button
                      size="small"
                      color="error"
                      onClick={() =>
                        doing(
                          ask(`/api/memory/shelves/${shelf.id}`, { method: "DELETE" }),
                          t("shelves.removed", { name: shelf.name }),
                          shelf.id,
                        )
                      }
                    >
                      {t("shelves.remove")}
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {open && (
        <ShelfDialog
          shelf={open}
          onClose={() => setOpen(null)}
          onDone={() => {
            setOpen(null);
            void again();
          }}
        />
      )}
      <Snackbar
        open={said !== null}
        autoHideDuration={8000}
        onClose={(_, reason) => reason !== "clickaway" && setSaid(null)}
        message={said?.words}
        action={
          said?.back !== undefined && (
            <Button
              size="small"
              color="inherit"
              onClick={() =>
                doing(ask(`/api/memory/shelves/${said.back}/put-back`, { method: "POST" }), t("shelves.putBack"))
              }
            >
              {t("memory.undo")}
            </Button>
          )
        }
      />
    </div>
  );
}

function ShelfDialog({ shelf, onDone, onClose }: { shelf: Shelf; onDone: () => void; onClose: () => void }) {
  const [name, setName] = useState(shelf.name);
  const [rank, setRank] = useState(String(shelf.rank));
  const [deduction, setDeduction] = useState(String(shelf.deduction));
  const [wrong, setWrong] = useState("");
  const save = async () => {
    try {
      await ask(`/api/memory/shelves/${shelf.id}`, {
        method: "PUT",
        json: { name, rank: Number(rank), deduction: Number(deduction) },
      });
      onDone();
    } catch (failure) {
      setWrong(sentenceOf(failure));
    }
  };
  const number = (value: string, most: number) => /^\d+$/.test(value) && Number(value) <= most;
  const sound = name.trim() !== "" && number(rank, 1000) && number(deduction, 50);
  return (
    <Dialog open onClose={onClose} aria-labelledby="shelf-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (sound) void save();
        }}
      >
        <DialogTitle id="shelf-title">{shelf.name}</DialogTitle>
        <DialogContent className="entry-form">
          {wrong && <Alert severity="error">{wrong}</Alert>}
          <TextField
            size="small"
            label={t("shelves.name")}
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <TextField
            size="small"
            label={t("shelves.rank")}
            helperText={t("shelves.rankWords")}
            error={!number(rank, 1000)}
            value={rank}
            onChange={(event) => setRank(event.target.value)}
          />
          <TextField
            size="small"
            label={t("shelves.deductionPercent")}
            helperText={t("shelves.deductionWords")}
            error={!number(deduction, 50)}
            value={deduction}
            onChange={(event) => setDeduction(event.target.value)}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={!sound}>
            {t("save")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
