import { Alert, Button, CircularProgress } from "@mui/material";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { sentenceOf } from "../../api/client";
import { Frame } from "../../app/Frame";
import { t, when } from "../../words/words";
import type { Person } from "../session/useSession";
import { LARGEST_FILE, upload, useIntakes } from "./useIntake";
import "./intake.css";

/** Where files come in: a place to drop one, and all that came before. */
export function IntakeListPage({ me }: { me: Person }) {
  const intakes = useIntakes();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);

  const bring = (file: File | undefined) => {
    if (!file) return;
    if (file.size > LARGEST_FILE) {
      setWrong(
        t("intake.tooLarge", {
          file: file.name,
          n: Math.floor(file.size / 1024 / 1024),
          limit: LARGEST_FILE / 1024 / 1024,
        }),
      );
      return;
    }
    setBusy(file.name);
    setWrong(null);
    upload(file)
      .then((intake) => navigate(`/intake/${intake.id}`))
      .catch((failure: unknown) => setWrong(sentenceOf(failure)))
      .finally(() => {
        setBusy(null);
        if (input.current) input.current.value = "";
      });
  };

  return (
    <Frame me={me} title={<h1 className="scopeline">{t("intake.title")}</h1>}>
      <div className="intakes">
        <div
          className={over ? "drop over" : "drop"}
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(event) => {
            event.preventDefault();
            setOver(false);
            bring(event.dataTransfer.files[0]);
          }}
        >
          {busy ? (
            <p role="status">
              <CircularProgress size={16} aria-hidden /> {t("intake.reading", { file: busy })}
            </p>
          ) : (
            <>
              <p>{t("intake.drop")}</p>
              <Button variant="contained" onClick={() => input.current?.click()}>
                {t("intake.choose")}
              </Button>
            </>
          )}
          <input
            ref={input}
            id="file"
            type="file"
            className="visually-hidden"
            tabIndex={-1}
            aria-label={t("intake.choose")}
            accept=".csv,.tsv,.tab,.txt,text/csv,text/tab-separated-values,text/plain"
            onChange={(event) => bring(event.target.files?.[0])}
          />
          <p className="soft">{t("intake.hint")}</p>
        </div>
        {wrong && (
          <Alert severity="error" onClose={() => setWrong(null)}>
            {wrong}
          </Alert>
        )}
        {intakes.isError && <Alert severity="error">{sentenceOf(intakes.error)}</Alert>}
        {intakes.data?.length === 0 && <p className="soft">{t("intake.none")}</p>}
        {intakes.data && intakes.data.length > 0 && (
          <table className="listed">
            <thead>
              <tr>
                <th scope="col">{t("intake.file")}</th>
                <th scope="col">{t("intake.table")}</th>
                <th scope="col">{t("intake.by")}</th>
                <th scope="col">{t("intake.when")}</th>
                <th scope="col">{t("intake.status")}</th>
              </tr>
            </thead>
            <tbody>
              {intakes.data.map((one) => (
                <tr key={one.id}>
                  <th scope="row">
                    <Link to={`/intake/${one.id}`}>{one.fileName}</Link>
                  </th>
                  <td>
                    {one.table ? <Link to={`/ledger?table=${one.table}`}>{one.tableName}</Link> : t("intake.newTable")}
                  </td>
                  <td>{one.person}</td>
                  <td>{when(one.appliedAt ?? one.createdAt)}</td>
                  <td>{t(`intake.is.${one.status as "open"}`)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </Frame>
  );
}
