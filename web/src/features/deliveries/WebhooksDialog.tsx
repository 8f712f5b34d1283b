import { Alert, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Words } from "../../words/Words";
import { listed, t, when } from "../../words/words";
import { DELIVERIES } from "./useDeliveries";

const LOOKS_EVERY_MS = 3_000;

type Told = Schemas["WebhookDesk"];

/** Programs that are told of a product's deliveries, and whether they heard of the last ones. */
export function WebhooksDialog({ slug, onClose }: { slug: string; onClose: () => void }) {
  const queries = useQueryClient();
  const address = `/api/products/${encodeURIComponent(slug)}/webhooks`;
  const queryKey = [DELIVERIES, slug, "told"];
  const [wanted, setWanted] = useState("");
  const [secret, setSecret] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const desk = useQuery({
    queryKey,
    queryFn: ({ signal }) => ask<Told>(address, { signal }),
    refetchInterval: (query) => (waits(query.state.data) ? LOOKS_EVERY_MS : false),
  });
  const doing = async (work: () => Promise<unknown>) => {
    setWrong("");
    setBusy(true);
    await work().catch((failure: unknown) => setWrong(sentenceOf(failure)));
    setBusy(false);
    await queries.invalidateQueries({ queryKey });
  };
  const add = () =>
    doing(async () => {
      const made = await ask<Schemas["WebhookMade"]>(address, { method: "POST", json: { address: wanted } });
      setSecret(made.secret);
      setWanted("");
    });
  const { hosts = [], hooks = [] } = desk.data ?? {};
  return (
    // A press beside it must not lose what is shown only once.
    <Dialog
      open
      onClose={() => {
        if (!secret) onClose();
      }}
      fullWidth
      maxWidth="md"
      aria-labelledby="told-title"
    >
      <DialogTitle id="told-title">{t("told.title")}</DialogTitle>
      <DialogContent className="hearers">
        <p className="soft">{t("told.words")}</p>
        {desk.error && <Alert severity="error">{sentenceOf(desk.error)}</Alert>}
        {desk.data && hooks.length === 0 && <p>{t("told.nobody")}</p>}
        <ul>
          {hooks.map((hook) => (
            <li key={hook.id}>
              <div className="hearer">
                <b className="mono">{hook.address}</b>
                <Button
                  size="small"
                  color="error"
                  disabled={busy}
                  onClick={() => void doing(() => ask(`${address}/${hook.id}`, { method: "DELETE" }))}
                >
                  {t("told.remove")}
                </Button>
              </div>
              {hook.calls.map((call) => (
                <p key={call.id} className={call.attempts > 0 && !call.heard ? "wrong" : "soft"}>
                  {t(`told.${call.event as "delivered"}`, { number: call.number })} · {became(call)}{" "}
                  {call.attempts > 0 && !call.heard && (
                    <Button
                      size="small"
                      disabled={busy}
                      onClick={() => void doing(() => ask(`${address}/calls/${call.id}`, { method: "POST" }))}
                    >
                      {t("told.again")}
                    </Button>
                  )}
                </p>
              ))}
            </li>
          ))}
        </ul>
        {secret ? (
          <Alert severity="success" action={<Button onClick={() => setSecret("")}>{t("told.kept")}</Button>}>
            {t("told.secret")} <code className="mono">{secret}</code>
          </Alert>
        ) : hosts.length > 0 ? (
          <form
            className="hearer"
            onSubmit={(event) => {
              event.preventDefault();
              void add();
            }}
          >
            <TextField
              label={t("told.address")}
              size="small"
              fullWidth
              value={wanted}
              helperText={t("told.hosts", { hosts: listed(hosts) })}
              onChange={(event) => setWanted(event.target.value)}
            />
            <Button type="submit" variant="outlined" disabled={busy || wanted.trim() === ""}>
              {t("told.add")}
            </Button>
          </form>
        ) : (
          desk.data && (
            <p>
              <Words of="told.noHosts" slots={{ option: <code>--webhooks build.example</code> }} />
            </p>
          )
        )}
        {wrong && <Alert severity="error">{wrong}</Alert>}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("close")}</Button>
      </DialogActions>
    </Dialog>
  );
}

/** Whether something is about to be told. */
function waits(desk: Told | undefined): boolean {
  return desk?.hooks.some((hook) => hook.calls.some((call) => call.attempts === 0)) ?? false;
}

function became(call: Schemas["WebhookCall"]): string {
  if (call.heard) return t("told.heard", { at: call.lastAt ? when(call.lastAt) : "" });
  if (call.attempts === 0) return t("told.waits");
  return call.nextAt
    ? t("told.triesAgain", { said: call.said, at: when(call.nextAt) })
    : t("told.givenUp", { said: call.said });
}
