import { Autocomplete, Button, Checkbox, FormControlLabel, MenuItem, TextField } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask, type Schemas } from "../../api/client";
import { useSettled } from "../../parts/useSettled";
import { t } from "../../words/words";
import { sampleIn, sampleSaid, type Box } from "./places";

interface Props {
  product: Schemas["ProductReply"];
  box: Box;
  number: number;
  onBox: (box: Box) => void;
  onRemove: () => void;
}

/** What is said of a box: the entry that is shown there, and how. */
export function BoxFields({ product, box, number, onBox, onRemove }: Props) {
  const set = (part: Partial<Box>) => onBox({ ...box, ...part });
  const amount = (field: "x" | "y" | "width" | "height" | "size" | "lines", min: number) => (
    <TextField
      size="small"
      type="number"
      label={t(`marks.${field}`)}
      value={box[field]}
      slotProps={{ htmlInput: { min } }}
      onChange={(event) => {
        const n = Number(event.target.value);
        if (event.target.value !== "" && n >= min) set({ [field]: n });
      }}
    />
  );
  const colour = (field: "color" | "cover") => (
    <TextField
      size="small"
      type="color"
      label={t(`marks.${field}`)}
      value={box[field]}
      onChange={(event) => set({ [field]: event.target.value })}
    />
  );
  return (
    <form
      className="boxfields"
      aria-label={t("marks.fields", { n: number })}
      onSubmit={(event) => event.preventDefault()}
    >
      <KeyField product={product} value={box.key} onKey={(key) => set({ key })} />
      <div className="pair">
        {amount("x", 0)}
        {amount("y", 0)}
        {amount("width", 8)}
        {amount("height", 8)}
        {amount("size", 4)}
        {amount("lines", 1)}
        {colour("color")}
        {colour("cover")}
        <TextField
          select
          size="small"
          label={t("marks.align")}
          value={box.align}
          onChange={(event) => set({ align: event.target.value as Box["align"] })}
        >
          {(["start", "middle", "end"] as const).map((one) => (
            <MenuItem key={one} value={one}>
              {t(`marks.align.${one}`)}
            </MenuItem>
          ))}
        </TextField>
      </div>
      <TextField
        size="small"
        label={t("marks.sample")}
        placeholder="n=5, name=Aino"
        defaultValue={sampleSaid(box.sample)}
        onBlur={(event) => {
          if (event.target.value !== sampleSaid(box.sample)) set({ sample: sampleIn(event.target.value) });
        }}
      />
      <FormControlLabel
        control={<Checkbox size="small" checked={box.keeps} onChange={(_, on) => set({ keeps: on })} />}
        label={t("marks.keepsDirection")}
      />
      <FormControlLabel
        control={<Checkbox size="small" checked={box.latinDigits} onChange={(_, on) => set({ latinDigits: on })} />}
        label={t("marks.latinDigits")}
      />
      <Button size="small" color="error" onClick={onRemove}>
        {t("marks.remove")}
      </Button>
    </form>
  );
}

/** The key of an entry: typing finds keys and sources of the product's tables. */
function KeyField({
  product,
  value,
  onKey,
}: {
  product: Schemas["ProductReply"];
  value: string;
  onKey: (key: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  const words = useSettled(typed.trim());
  const found = useQuery({
    queryKey: ["find", words],
    queryFn: ({ signal }) => ask<Schemas["FoundReply"]>(`/api/find?words=${encodeURIComponent(words)}`, { signal }),
    enabled: words !== "",
    placeholderData: keepPreviousData,
    staleTime: 10_000,
  });
  const options = (found.data?.entries ?? []).filter(({ table }) => product.tables.some(({ slug }) => slug === table));
  return (
    <Autocomplete<Schemas["FoundEntry"], false, false, true>
      freeSolo
      id="box-key"
      options={typed.trim() === "" ? [] : options}
      filterOptions={(all) => all}
      getOptionLabel={(one) => (typeof one === "string" ? one : one.key)}
      getOptionKey={(one) => (typeof one === "string" ? one : `${one.entry} ${one.language ?? ""}`)}
      inputValue={typed}
      value={null}
      onInputChange={(_, text, why) => {
        if (why === "reset") return;
        setTyped(text);
        onKey(text.trim());
      }}
      onChange={(_, one) => {
        if (one === null || typeof one === "string") return;
        setTyped(one.key);
        onKey(one.key);
      }}
      renderOption={(props, one) => (
        <li {...props} key={`${one.entry} ${one.language ?? ""}`}>
          <span>
            <code>{one.key}</code> <span className="soft">{one.words}</span>
          </span>
        </li>
      )}
      renderInput={(props) => <TextField {...props} size="small" label={t("marks.key")} autoFocus={value === ""} />}
    />
  );
}
