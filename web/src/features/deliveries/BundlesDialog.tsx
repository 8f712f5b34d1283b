import {
  Alert,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  MenuItem,
  TextField,
} from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { Link } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { moment, t, when } from "../../words/words";
import { DELIVERIES } from "./useDeliveries";

type Choice = Schemas["BundleChoice"];

const DAYS = [30, 90, 365] as const;

/** Whether a running product may fetch its texts over HTTP, with which tokens and from which pages. */
export function BundlesDialog({ slug, onClose }: { slug: string; onClose: () => void }) {
  const queries = useQueryClient();
  const address = `/api/products/${encodeURIComponent(slug)}/bundles`;
  const queryKey = [DELIVERIES, slug, "bundles"];
  const [secret, setSecret] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const desk = useQuery({ queryKey, queryFn: ({ signal }) => ask<Schemas["BundleDesk"]>(address, { signal }) });
  const doing = (work: () => Promise<Schemas["BundleDesk"]>, done?: (now: Schemas["BundleDesk"]) => void) => {
    setWrong("");
    setBusy(true);
    work()
      .then((now) => {
        queries.setQueryData(queryKey, now);
        done?.(now);
      })
      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
      .finally(() => setBusy(false));
  };
  const make = (name: string, days: number, live: boolean) =>
    doing(async () => {
      const made = await ask<Schemas["TokenMade"]>(`${address}/tokens`, { method: "POST", json: { name, days, live } });
      setSecret(made.secret);
      return made.desk;
    });
  const { choice, tokens = [] } = desk.data ?? {};
  return (
    // A press beside it must not lose what is shown only once, nor what is about to be.
    <Dialog
      open
      onClose={() => {
        if (!secret && !busy) onClose();
      }}
      fullWidth
      maxWidth="md"
      aria-labelledby="bundles-title"
    >
      <DialogTitle id="bundles-title">{t("bundles.title")}</DialogTitle>
      <DialogContent className="hearers">
        <p className="soft">{t("bundles.words")}</p>
        {desk.error && <Alert severity="error">{sentenceOf(desk.error)}</Alert>}
        {choice && (
          <Choices
            slug={slug}
            choice={choice}
            busy={busy}
            onSave={(wanted, done) =>
              doing(
                () => ask(address, { method: "PUT", json: wanted }),
                (now) => done(now.choice),
              )
            }
          />
        )}
        {choice && <h3>{t("bundles.tokens")}</h3>}
        {desk.data && tokens.length === 0 && <p className="soft">{t("bundles.noToken")}</p>}
        <ul>
          {tokens.map((token) => (
            <li key={token.id} className="hearer">
              <div>
                <b>{token.name}</b> {token.live && <small>· {t("bundles.live")}</small>}
                <p className="soft">
                  {t("bundles.lasts", { who: token.person, until: moment(token.expiresAt) })}{" "}
                  {token.usedAt ? t("bundles.used", { at: when(token.usedAt) }) : t("bundles.unused")}
                </p>
              </div>
              <Button
                size="small"
                color="error"
                disabled={busy}
                aria-label={t("bundles.endOf", { name: token.name })}
                onClick={() => doing(() => ask(`${address}/tokens/${token.id}`, { method: "DELETE" }))}
              >
                {t("bundles.end")}
              </Button>
            </li>
          ))}
        </ul>
        {secret ? (
          <Alert severity="success" action={<Button onClick={() => setSecret("")}>{t("told.kept")}</Button>}>
            {t("bundles.secret")} <code className="mono">{secret}</code>
          </Alert>
        ) : (
          choice && <NewToken busy={busy} onMake={make} />
        )}
        {wrong && <Alert severity="error">{wrong}</Alert>}
      </DialogContent>
      <DialogActions>
        <Button component={Link} to={`/deliveries/${slug}/asked`}>
          {t("bundles.asked")}
        </Button>
        <Button onClick={onClose}>{t("close")}</Button>
      </DialogActions>
    </Dialog>
  );
}

interface ChoicesProps {
  slug: string;
  choice: Choice;
  busy: boolean;
  onSave: (wanted: Choice, done: (now: Choice) => void) => void;
}

/** What is typed here stays through slow and refused replies; it is changed against what was seen, whatever was read anew since. */
function Choices({ slug, choice: first, busy, onSave }: ChoicesProps) {
  const [choice, setChoice] = useState(first);
  const [served, setServed] = useState(choice.served);
  const [open, setOpen] = useState(choice.open);
  const [shown, setShown] = useState(choice.shown);
  const [origins, setOrigins] = useState(choice.origins.join("\n"));
  const wanted = origins.split(/\s+/).filter((one) => one !== "");
  const changed =
    served !== choice.served ||
    open !== choice.open ||
    shown !== choice.shown ||
    wanted.join("\n") !== choice.origins.join("\n");
  const save = (event: FormEvent) => {
    event.preventDefault();
    onSave({ served, open, origins: wanted, shown, version: choice.version }, setChoice);
  };
  return (
    <form className="entry-form" onSubmit={save}>
      <FormControlLabel
        label={t("bundles.served")}
        control={<Checkbox size="small" checked={served} onChange={(_, on) => setServed(on)} />}
      />
      <FormControlLabel
        label={t("bundles.open")}
        control={<Checkbox size="small" checked={open} disabled={!served} onChange={(_, on) => setOpen(on)} />}
      />
      <TextField
        label={t("bundles.origins")}
        size="small"
        multiline
        minRows={2}
        value={origins}
        helperText={t("bundles.originsWords")}
        onChange={(event) => setOrigins(event.target.value)}
      />
      {choice.served && (
        <pre className="mono">{`GET ${window.location.origin}/api/bundles/${slug}\nGET ${window.location.origin}/api/bundles/${slug}/de`}</pre>
      )}
      <FormControlLabel
        label={t("bundles.shown")}
        control={<Checkbox size="small" checked={shown} onChange={(_, on) => setShown(on)} />}
      />
      {choice.shown && (
        <>
          <p className="soft">{t("bundles.shownWords")}</p>
          <pre className="mono">{`<img src="${window.location.origin}/api/shown/${slug}/de.svg" alt="${slug}: de">\n<iframe src="${window.location.origin}/api/shown/${slug}/table" title="${slug}"></iframe>`}</pre>
        </>
      )}
      <Button type="submit" variant="contained" disabled={busy || !changed} sx={{ alignSelf: "start" }}>
        {t("save")}
      </Button>
    </form>
  );
}

function NewToken({ busy, onMake }: { busy: boolean; onMake: (name: string, days: number, live: boolean) => void }) {
  const [name, setName] = useState("");
  const [days, setDays] = useState<number>(DAYS[1]);
  const [live, setLive] = useState(false);
  return (
    <form
      className="hearer"
      onSubmit={(event) => {
        event.preventDefault();
        onMake(name.trim(), days, live);
        setName("");
      }}
    >
      <TextField
        label={t("bundles.tokenName")}
        size="small"
        fullWidth
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <TextField
        select
        label={t("bundles.days")}
        size="small"
        value={days}
        onChange={(event) => setDays(Number(event.target.value))}
      >
        {DAYS.map((n) => (
          <MenuItem key={n} value={n}>
            {t("bundles.daysLong", { n })}
          </MenuItem>
        ))}
      </TextField>
      <FormControlLabel
        label={t("bundles.live")}
        control={<Checkbox size="small" checked={live} onChange={(_, on) => setLive(on)} />}
      />
      <Button type="submit" variant="outlined" disabled={busy || name.trim() === ""}>
        {t("bundles.make")}
      </Button>
    </form>
  );
}
