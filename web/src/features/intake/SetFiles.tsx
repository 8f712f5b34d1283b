import {
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  IconButton,
  MenuItem,
  Radio,
  TextField,
  Tooltip,
} from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { count, t, nameOfTag } from "../../words/words";
import { formatLabel, formatNames, useFormats } from "./formats";
import { choiceOf, type FileChoice } from "./sets";
import { TagField } from "./TagField";
import type { Intake } from "./useIntake";
import "../../parts/listed.css";

type File = Schemas["FileReply"];

interface Props {
  intake: Intake;
  busy: boolean;
  onFile: (file: FileChoice) => void;
}

/** The files of a set, one a row: what each is and holds, what is wrong with it; every guess can be corrected. */
export function SetFiles({ intake, busy, onFile }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const set = intake.set;
  if (!set) return null;
  const shown = set.files.find((file) => file.path === open);
  return (
    <>
      <table className="listed setfiles">
        <thead>
          <tr>
            <th scope="col">{t("set.goesIn")}</th>
            <th scope="col">{t("set.language")}</th>
            <th scope="col">{t("set.file")}</th>
            <th scope="col" className="number">
              {t("set.texts")}
            </th>
            <th scope="col" className="number">
              {t("set.missing")}
            </th>
            <th scope="col" className="number">
              {t("set.unknown")}
            </th>
            <th scope="col">{t("set.problems")}</th>
          </tr>
        </thead>
        <tbody>
          {set.files.map((file) => (
            <tr key={file.path} className={file.leftOut ? "out" : undefined}>
              <td>
                <Checkbox
                  size="small"
                  checked={!file.leftOut}
                  disabled={busy}
                  slotProps={{ input: { "aria-label": t("set.takeFile", { file: file.path }) } }}
                  onChange={(event) => onFile({ ...choiceOf(file), leftOut: !event.target.checked })}
                />
              </td>
              <th scope="row">
                <span className="tongue">
                  <TagField
                    key={file.language}
                    tag={file.language ?? ""}
                    label={t("set.languageOf", { file: file.path })}
                    busy={busy}
                    onTag={(language) => onFile({ ...choiceOf(file), language })}
                  />
                  <span className="soft">
                    {file.language && nameOfTag(file.language)}
                    {file.source && ` · ${t("set.theSources")}`}
                  </span>
                </span>
              </th>
              <td className="path" title={file.path}>
                {file.path}
              </td>
              <td className="number">{number(file.facts?.texts)}</td>
              <td className="number">{file.source ? "" : number(file.facts?.missing)}</td>
              <td className="number">{number(file.facts?.unknown)}</td>
              <td className={file.facts?.blocked ? "wrong" : "soft"}>
                {file.facts?.blocked ??
                  (file.facts &&
                    file.facts.problemCount > 0 &&
                    t("set.nProblems", { n: file.facts.problemCount }))}{" "}
                <Tooltip title={t("set.more")}>
                  <IconButton
                    size="small"
                    aria-label={t("set.moreOf", { file: file.path })}
                    onClick={() => setOpen(file.path)}
                  >
                    …
                  </IconButton>
                </Tooltip>
              </td>
            </tr>
          ))}
          {set.absent.map((file) => (
            <tr key={file.path} className="out">
              <td />
              <th scope="row" className="soft">
                {file.language && nameOfTag(file.language)}
              </th>
              <td className="path">{file.path}</td>
              <td colSpan={4} className="soft">
                {t("set.absent")}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown && <FileDialog file={shown} intake={intake} busy={busy} onFile={onFile} onClose={() => setOpen(null)} />}
    </>
  );
}

function number(n: number | undefined): string {
  return n ? count(n) : "";
}

/** How one file is read, what is wrong with it, and whether it holds the sources. */
function FileDialog({
  file,
  intake,
  busy,
  onFile,
  onClose,
}: {
  file: File;
  intake: Intake;
  busy: boolean;
  onFile: (file: FileChoice) => void;
  onClose: () => void;
}) {
  const known = useFormats();
  const facts = file.facts;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="file-title">
      <DialogTitle id="file-title">{file.path}</DialogTitle>
      <DialogContent className="filedialog">
        <div className="choices">
          <TextField
            select
            size="small"
            margin="dense"
            label={t("reading.format")}
            value={facts?.format ?? ""}
            disabled={busy}
            onChange={(event) => onFile({ ...choiceOf(file), format: event.target.value })}
          >
            {formatNames(known, facts?.format ?? "").map((format) => (
              <MenuItem key={format} value={format}>
                {format && formatLabel(format)}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            margin="dense"
            label={t("reading.charset")}
            value={facts?.charset ?? ""}
            disabled={busy}
            onChange={(event) => onFile({ ...choiceOf(file), charset: event.target.value })}
          >
            {[...new Set([...known.charsets, facts?.charset ?? ""])].map((charset) => (
              <MenuItem key={charset} value={charset}>
                {charset}
              </MenuItem>
            ))}
          </TextField>
        </div>
        {!intake.options.table && (
          <label className="owncheck">
            <Radio
              size="small"
              checked={file.source}
              disabled={busy || file.leftOut}
              onChange={() => onFile({ ...choiceOf(file), source: true })}
            />
            {t("set.holdsSources")}
          </label>
        )}
        {facts && facts.problems.length > 0 && (
          <>
            <h3>{t("set.nProblems", { n: facts.problemCount })}</h3>
            <ul className="problems">
              {facts.problems.map((problem) => (
                <li key={problem}>{problem}</li>
              ))}
              {facts.problemCount > facts.problems.length && (
                <li>{t("intake.moreProblems", { n: facts.problemCount - facts.problems.length })}</li>
              )}
            </ul>
          </>
        )}
        {facts?.blocked && <p className="wrong">{facts.blocked}</p>}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t("close")}</Button>
      </DialogActions>
    </Dialog>
  );
}
