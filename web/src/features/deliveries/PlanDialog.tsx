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
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import "../../parts/form.css";

interface Props {
  slug: string;
  plan: Schemas["DeliveryPlan"];
  outboxThere: boolean;
  onDone: () => void;
  onClose: () => void;
}

const WHEN = ["never", "every", "at"] as const;

/** What must hold before a product goes out, when it does by itself, and where it goes. */
export function PlanDialog({ slug, plan, outboxThere, onDone, onClose }: Props) {
  const [gates, setGates] = useState(plan.gates);
  const [when, setWhen] = useState<(typeof WHEN)[number]>(
    plan.everyHours !== undefined ? "every" : plan.times.length > 0 ? "at" : "never",
  );
  const [hours, setHours] = useState(String(plan.everyHours ?? 2));
  const [times, setTimes] = useState(plan.times.join(", "));
  const [zone, setZone] = useState(plan.version === 0 ? Intl.DateTimeFormat().resolvedOptions().timeZone : plan.zone);
  const [outbox, setOutbox] = useState(plan.outbox);
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const save = () => {
    setBusy(true);
    ask(`/api/products/${encodeURIComponent(slug)}/delivery/plan`, {
      method: "PUT",
      json: {
        gates,
        outbox,
        everyHours: when === "every" ? Number(hours) : undefined,
        times:
          when === "at"
            ? times
                .split(/[\s,;]+/)
                .filter((one) => one !== "")
                .map((one) => (/^\d:/.test(one) ? `0${one}` : one))
            : [],
        zone,
        version: plan.version,
      },
    })
      .then(onDone)
      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
      .finally(() => setBusy(false));
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="plan-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <DialogTitle id="plan-title">{t("plan.title")}</DialogTitle>
        <DialogContent className="entry-form">
          <h3>{t("plan.gates")}</h3>
          <TextField
            select
            size="small"
            label={t("gate.blockers")}
            value={gates.blockers}
            onChange={(event) => setGates({ ...gates, blockers: event.target.value })}
          >
            {(["hold", "stop", "out", "go"] as const).map((one) => (
              <MenuItem key={one} value={one}>
                {t(`gate.blockers.${one}`)}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            size="small"
            type="number"
            label={t("gate.share")}
            value={gates.share}
            onChange={(event) => setGates({ ...gates, share: Number(event.target.value) })}
          />
          {gates.share > 0 && (
            <TextField
              select
              size="small"
              label={t("gate.below")}
              value={gates.below}
              onChange={(event) => setGates({ ...gates, below: event.target.value })}
            >
              {(["hold", "stop"] as const).map((one) => (
                <MenuItem key={one} value={one}>
                  {t(`gate.blockers.${one}`)}
                </MenuItem>
              ))}
            </TextField>
          )}
          <TextField
            select
            size="small"
            label={t("gate.stale")}
            value={gates.stale}
            onChange={(event) => setGates({ ...gates, stale: event.target.value })}
          >
            {(["go", "hole", "hold"] as const).map((one) => (
              <MenuItem key={one} value={one}>
                {t(`gate.stale.${one}`)}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label={t("gate.scenes")}
            value={gates.scenes ?? "go"}
            onChange={(event) => setGates({ ...gates, scenes: event.target.value })}
          >
            {(["go", "hold", "stop"] as const).map((one) => (
              <MenuItem key={one} value={one}>
                {t(`gate.blockers.${one}`)}
              </MenuItem>
            ))}
          </TextField>
          <h3>{t("plan.byItself")}</h3>
          <TextField
            select
            size="small"
            label={t("plan.when")}
            value={when}
            onChange={(event) => setWhen(event.target.value as "never")}
          >
            {WHEN.map((one) => (
              <MenuItem key={one} value={one}>
                {t(`plan.when.${one}`)}
              </MenuItem>
            ))}
          </TextField>
          {when === "every" && (
            <TextField
              size="small"
              type="number"
              label={t("plan.hours")}
              value={hours}
              onChange={(event) => setHours(event.target.value)}
            />
          )}
          {when === "at" && (
            <TextField
              size="small"
              label={t("plan.times")}
              placeholder="06:30, 18:00"
              value={times}
              onChange={(event) => setTimes(event.target.value)}
            />
          )}
          {when !== "never" && (
            <TextField
              size="small"
              label={t("plan.zone")}
              value={zone}
              onChange={(event) => setZone(event.target.value)}
            />
          )}
          <FormControlLabel
            control={
              <Checkbox size="small" checked={outbox} disabled={!outboxThere} onChange={(_, on) => setOutbox(on)} />
            }
            label={t(outboxThere ? "plan.outbox" : "plan.noOutbox")}
          />
          {wrong && <Alert severity="error">{wrong}</Alert>}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={busy}>
            {t("save")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
