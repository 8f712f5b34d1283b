import {
  Alert,
  Autocomplete,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  TextField,
} from "@mui/material";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { languagesOf } from "../../scope/scopeTables";
import { useTables } from "../../scope/useTables";
import { nameOfTag, t } from "../../words/words";
import "../../parts/form.css";

interface Props {
  /** The service to change, null for a new one. */
  service: Schemas["DraftServiceReply"] | null;
  onDone: (sentence: string) => void;
  onClose: () => void;
}

/** The numbers of a service, with the most that each may be. */
const NUMBERS = {
  dayCharacters: 1_000_000_000,
  monthCharacters: 1_000_000_000,
  textsAtOnce: 100,
  requestsAtOnce: 16,
  seconds: 300,
} as const;
type Numbered = keyof typeof NUMBERS;

const USUAL: Record<Numbered, number> = {
  dayCharacters: 50_000,
  monthCharacters: 500_000,
  textsAtOnce: 20,
  requestsAtOnce: 2,
  seconds: 30,
};

/** How a drafting service is asked. Its secret goes in and is never shown again. */
export function ServiceDialog({ service, onDone, onClose }: Props) {
  const was = service?.settings;
  const tables = useTables();
  const [name, setName] = useState(was?.name ?? "");
  const [address, setAddress] = useState(was?.address ?? "");
  const [secret, setSecret] = useState<string | null>(null);
  const [languages, setLanguages] = useState(was?.languages ?? []);
  const [withheld, setWithheld] = useState(was?.withheld ?? []);
  const [numbers, setNumbers] = useState<Record<Numbered, string>>(
    () =>
      Object.fromEntries(
        Object.entries(USUAL).map(([key, usual]) => [key, String(was?.[key as Numbered] ?? usual)]),
      ) as Record<Numbered, string>,
  );
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const all = Object.keys(NUMBERS) as Numbered[];
  const least = (key: Numbered) => (key.endsWith("Characters") ? 0 : 1);
  const right = (key: Numbered) =>
    /^\d+$/.test(numbers[key]) && Number(numbers[key]) <= NUMBERS[key] && Number(numbers[key]) >= least(key);
  const sound = name.trim() !== "" && address.trim() !== "" && all.every(right);
  const save = async () => {
    setBusy(true);
    const json = {
      name,
      address,
      languages,
      withheld,
      version: service?.version ?? 0,
      ...(secret === null ? {} : { secret }),
      ...Object.fromEntries(all.map((key) => [key, Number(numbers[key])])),
    };
    try {
      if (service) await ask(`/api/drafting/services/${service.id}`, { method: "PUT", json });
      else await ask("/api/drafting/services", { method: "POST", json });
      onDone(t("drafts.saved", { name }));
    } catch (failure) {
      setWrong(sentenceOf(failure));
      setBusy(false);
    }
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="service-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (sound && !busy) void save();
        }}
      >
        <DialogTitle id="service-title">{service ? service.settings.name : t("drafts.add")}</DialogTitle>
        <DialogContent className="entry-form">
          {wrong && <Alert severity="error">{wrong}</Alert>}
          <TextField
            size="small"
            label={t("drafts.name")}
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <TextField
            size="small"
            label={t("drafts.address")}
            value={address}
            onChange={(event) => setAddress(event.target.value)}
          />
          <TextField
            size="small"
            type="password"
            autoComplete="new-password"
            label={t("drafts.secret")}
            value={secret ?? ""}
            helperText={t(service?.secret ? "drafts.secretKept" : "drafts.secretWords")}
            onChange={(event) => setSecret(event.target.value)}
          />
          {service?.secret && secret !== "" && (
            <Button size="small" onClick={() => setSecret("")}>
              {t("drafts.secretAway")}
            </Button>
          )}
          <Autocomplete
            multiple
            size="small"
            options={languagesOf(tables.data ?? []).map((kept) => kept.language.tag)}
            getOptionLabel={nameOfTag}
            value={languages}
            onChange={(_, value) => setLanguages(value)}
            renderInput={(given) => (
              <TextField {...given} label={t("drafts.languages")} helperText={t("drafts.languagesWords")} />
            )}
          />
          <Autocomplete
            multiple
            size="small"
            options={(tables.data ?? []).map((table) => table.slug)}
            getOptionLabel={(slug) => tables.data?.find((table) => table.slug === slug)?.name ?? slug}
            value={withheld}
            onChange={(_, value) => setWithheld(value)}
            renderInput={(given) => (
              <TextField {...given} label={t("drafts.tables")} helperText={t("drafts.tablesWords")} />
            )}
          />
          <div className="numbers">
            {all.map((key) => (
              <TextField
                key={key}
                size="small"
                label={t(`drafts.number.${key}`)}
                error={!right(key)}
                value={numbers[key]}
                onChange={(event) => setNumbers({ ...numbers, [key]: event.target.value })}
              />
            ))}
          </div>
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={!sound || busy}>
            {t("save")}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
