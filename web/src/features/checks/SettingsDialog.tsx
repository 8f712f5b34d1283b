import {
  Alert,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
} from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import type { Person } from "../../session/useSession";
import { t } from "../../words/words";
import { FontsField } from "./FontsField";
import { kindName, weightName, WEIGHTS } from "./kinds";
import { FINDINGS } from "./useFindings";

interface Props {
  me: Person;
  tables: Schemas["TableReply"][];
  products: Schemas["ProductReply"][];
  onClose: () => void;
}

/** What counts as wrong: in a table, or in all tables of a product. */
export function SettingsDialog({ me, tables, products, onClose }: Props) {
  const [of, setOf] = useState(`tables/${tables[0]?.slug ?? ""}`);
  const shown = useQuery({
    queryKey: ["checks", of],
    queryFn: ({ signal }) => ask<Schemas["CheckSettingsReply"]>(`/api/${of}/checks`, { signal }),
  });
  const product = products.find((one) => of === `products/${one.slug}`);
  const name = product?.name ?? tables.find((one) => of === `tables/${one.slug}`)?.name ?? "";
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="settings-title">
      <DialogTitle id="settings-title">{t("checks.settingsOf", { name })}</DialogTitle>
      <DialogContent className="checksettings">
        <TextField
          select
          size="small"
          margin="dense"
          label={t("checks.settingsFor")}
          value={of}
          onChange={(event) => setOf(event.target.value)}
        >
          {tables.map((one) => (
            <MenuItem key={`tables/${one.slug}`} value={`tables/${one.slug}`}>
              {one.name}
            </MenuItem>
          ))}
          {products.map((one) => (
            <MenuItem key={`products/${one.slug}`} value={`products/${one.slug}`}>
              {one.name}
            </MenuItem>
          ))}
        </TextField>
        {shown.isError && <Alert severity="error">{sentenceOf(shown.error)}</Alert>}
        {shown.data && (
          <Form
            key={`${of} ${shown.data.own.version}`}
            of={of}
            product={product}
            shown={shown.data}
            editable={me.coordinator}
            onClose={onClose}
          />
        )}
      </DialogContent>
    </Dialog>
  );
}

interface FormProps {
  of: string;
  product: Schemas["ProductReply"] | undefined;
  shown: Schemas["CheckSettingsReply"];
  editable: boolean;
  onClose: () => void;
}

function Form({ of, product, shown, editable, onClose }: FormProps) {
  const [own, setOwn] = useState(shown.own);
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const queries = useQueryClient();
  const set = (part: Partial<typeof own>) => setOwn({ ...own, ...part });
  const weigh = (kind: string, weight: string | null) => {
    const weights = Object.fromEntries(Object.entries(own.weights).filter(([name]) => name !== kind));
    set({ weights: weight === null ? weights : { ...weights, [kind]: weight } });
  };
  const save = () => {
    setBusy(true);
    setWrong("");
    ask(`/api/${of}/checks`, { method: "PUT", json: own })
      .then(async () => {
        await queries.invalidateQueries({ queryKey: ["checks", of] });
        void queries.invalidateQueries({ queryKey: [FINDINGS] });
        onClose();
      })
      .catch((failure: unknown) => {
        setWrong(sentenceOf(failure));
        setBusy(false);
      });
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <p className="soft">{editable ? t("checks.settingsWords") : t("checks.coordinatorOnly")}</p>
      <fieldset className="bare" disabled={!editable}>
        <ul className="weights">
          {Object.entries(shown.usual).map(([kind, usual]) => (
            <li key={kind}>
              <span id={`weight-${kind}`}>
                {kindName(kind)}
                <small className="soft">
                  {own.weights[kind] === undefined &&
                    (shown.holds[kind] !== usual && shown.own.weights[kind] === undefined
                      ? t("checks.inherited", { weight: weightName(shown.holds[kind] ?? usual) })
                      : t("checks.usual", { weight: weightName(usual) }))}
                </small>
              </span>
              <ToggleButtonGroup
                exclusive
                size="small"
                disabled={!editable}
                aria-labelledby={`weight-${kind}`}
                value={own.weights[kind] ?? null}
                onChange={(_, weight: string | null) => weigh(kind, weight)}
              >
                {WEIGHTS.map((weight) => (
                  <ToggleButton key={weight} value={weight}>
                    {weightName(weight)}
                  </ToggleButton>
                ))}
              </ToggleButtonGroup>
            </li>
          ))}
        </ul>
        <TextField
          multiline
          fullWidth
          size="small"
          margin="dense"
          label={t("checks.placeholders")}
          helperText={t("checks.placeholdersWords")}
          value={own.placeholders.join("\n")}
          onChange={(event) => set({ placeholders: event.target.value === "" ? [] : event.target.value.split("\n") })}
        />
        <div className="pair">
          <TextField
            size="small"
            margin="dense"
            label={t("checks.forbidden")}
            value={own.forbidden}
            onChange={(event) => set({ forbidden: event.target.value })}
          />
          <TextField
            size="small"
            margin="dense"
            type="number"
            label={t("checks.lengthFactor")}
            value={own.lengthFactor}
            slotProps={{ htmlInput: { min: 0, max: 20, step: 0.1 } }}
            onChange={(event) => set({ lengthFactor: Number(event.target.value) })}
          />
          <TextField
            size="small"
            margin="dense"
            label={t("checks.keyRule")}
            value={own.keyRule}
            onChange={(event) => set({ keyRule: event.target.value })}
          />
          {product && (
            <TextField
              size="small"
              margin="dense"
              label={t("checks.charset")}
              value={own.charset}
              onChange={(event) => set({ charset: event.target.value })}
            />
          )}
        </div>
      </fieldset>
      {product && <FontsField product={product} editable={editable} />}
      {wrong && <Alert severity="error">{wrong}</Alert>}
      <DialogActions>
        <Button onClick={onClose}>{t("checks.close")}</Button>
        {editable && (
          <Button type="submit" variant="contained" disabled={busy}>
            {t("checks.save")}
          </Button>
        )}
      </DialogActions>
    </form>
  );
}
