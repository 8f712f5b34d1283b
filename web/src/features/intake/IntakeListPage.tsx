import { Alert, Button, CircularProgress } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { Frame } from "../../desk/Frame";
import { count, t, when } from "../../words/words";
import { nameOf, OpenIntakes } from "./OpenIntakes";
import { NotComeIn } from "./NotComeIn";
import { onlyScenes } from "./onlyScenes";
import { ScenesDialog } from "./ScenesDialog";
import { makeAssetSet } from "./useAssetSet";
import { bringAll, farWords, filesOf, type Came, type Dropped } from "./uploading";
import { useIntakes, type Intake } from "./useIntake";
import "./intake.css";
import "../../parts/listed.css";

/** Where files come in: a place to drop some, those that wait for a decision, and all that came before. */
export function IntakeListPage() {
  const intakes = useIntakes();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState<string | null>(null);
  const brought = useLocation().state as { came?: Came; table?: string } | null;
  const [came, setCame] = useState<Came | null>(brought?.came ?? null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [scenes, setScenes] = useState<Dropped[] | null>(null);
  const [refusals, setRefusals] = useState<Record<number, string>>({});
  const takeAll = useMutation({
    mutationFn: async (ids: number[]) => {
      const why: Record<number, string> = {};
      for (const id of ids) {
        try {
          await ask<Intake>(`/api/intakes/${id}/apply`, { method: "POST" });
        } catch (failure) {
          // One that cannot go keeps none of the others.
          why[id] = sentenceOf(failure);
        }
      }
      setRefusals(why);
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ["intake"] }),
  });

  const bring = async (files: Dropped[]) => {
    if (files.length === 0) return;
    setWrong(null);
    setCame(null);
    if (await onlyScenes(files)) setScenes(files);
    else await bringTexts(files);
  };
  const nameAssets = async (drop: number) => {
    const table = drop === brought?.came?.drop ? brought?.table : undefined;
    void navigate(`/intake/assets/${await makeAssetSet(drop, table)}`);
  };
  const bringTexts = async (files: Dropped[]) => {
    const all = await bringAll(files, (far) => setBusy(farWords(far)));
    setBusy(null);
    setCame(all);
    if (input.current) input.current.value = "";
    await queries.invalidateQueries({ queryKey: ["intakes"] });
    const nothingElse = all.intakes.length === 0 && all.refused.length === 0;
    if (all.assets > 0 && nothingElse && all.drop !== null) return nameAssets(all.drop);
    const only = all.intakes[0];
    if (all.intakes.length === 1 && only !== undefined && all.refused.length === 0 && all.assets === 0)
      void navigate(`/intake/${only}`);
  };
  const takeAlone = useMutation({
    mutationFn: (file: string) =>
      ask<Intake>(`/api/drops/${came?.drop}/alone?name=${encodeURIComponent(file)}`, { method: "POST" }),
    onSuccess: (intake) => void navigate(`/intake/${intake.id}`),
  });
  const fail = (failure: unknown) => {
    setBusy(null);
    setWrong(sentenceOf(failure));
  };
  const open = intakes.data?.filter((one) => one.status === "open") ?? [];
  const before = intakes.data?.filter((one) => one.status !== "open") ?? [];

  return (
    <Frame title={t("intake.title")}>
      <div
        className="intakes"
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={(event) => event.currentTarget === event.target && setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          filesOf(event.dataTransfer).then(bring).catch(fail);
        }}
      >
        <div className={over ? "drop over" : "drop"}>
          {busy ? (
            <p role="status">
              <CircularProgress size={16} aria-hidden /> {busy}
            </p>
          ) : (
            <>
              <p>{t("intake.drop")}</p>
              <Button variant="contained" onClick={() => input.current?.click()}>
                {t("intake.choose")}
              </Button>{" "}
              <Button variant="outlined" onClick={() => folder.current?.click()}>
                {t("intake.chooseFolder")}
              </Button>
            </>
          )}
          <input
            ref={input}
            id="file"
            type="file"
            multiple
            className="visually-hidden"
            tabIndex={-1}
            aria-label={t("intake.choose")}
            onChange={(event) => {
              const files = [...(event.target.files ?? [])].map((file) => ({ path: file.name, file }));
              bring(files).catch(fail);
            }}
          />
          <input
            ref={folder}
            id="folder"
            type="file"
            {...{ webkitdirectory: "" }}
            className="visually-hidden"
            tabIndex={-1}
            aria-label={t("intake.chooseFolder")}
            onChange={(event) => {
              const files = [...(event.target.files ?? [])]
                .filter((file) => !file.name.startsWith("."))
                .map((file) => ({ path: file.webkitRelativePath, file }));
              event.target.value = "";
              bring(files).catch(fail);
            }}
          />
          <p className="soft">{t("intake.hint")}</p>
        </div>
        {wrong && (
          <Alert severity="error" onClose={() => setWrong(null)}>
            {wrong}
          </Alert>
        )}
        {came && came.drop !== null && came.assets > 0 && (
          <Alert
            severity="info"
            action={<Button onClick={() => nameAssets(came.drop ?? 0).catch(fail)}>{t("assets.seeNames")}</Button>}
          >
            {t("assets.came", { n: came.assets })}
          </Alert>
        )}
        {came && came.refused.length > 0 && (
          <NotComeIn refused={came.refused} onTake={(file) => takeAlone.mutate(file)} onClose={() => setCame(null)} />
        )}
        {(intakes.isError || takeAlone.isError) && (
          <Alert severity="error">{sentenceOf(intakes.error ?? takeAlone.error)}</Alert>
        )}
        {open.length > 0 && (
          <OpenIntakes open={open} busy={takeAll.isPending} refusals={refusals} onTake={(ids) => takeAll.mutate(ids)} />
        )}
        {intakes.data?.length === 0 && <p className="soft">{t("intake.none")}</p>}
        {before.length > 0 && <Before intakes={before} />}
      </div>
      {scenes && (
        <ScenesDialog
          files={scenes}
          onAssets={() => {
            setScenes(null);
            bringTexts(scenes).catch(fail);
          }}
          onClose={() => setScenes(null)}
        />
      )}
    </Frame>
  );
}

function Before({ intakes }: { intakes: Schemas["Listed"][] }) {
  return (
    <section aria-labelledby="before">
      <h2 id="before">{t("intake.done.list")}</h2>
      <table className="listed">
        <thead>
          <tr>
            <th scope="col">{t("intake.file")}</th>
            <th scope="col">{t("intake.table")}</th>
            <th scope="col">{t("intake.by")}</th>
            <th scope="col">{t("intake.when")}</th>
            <th scope="col">{t("intake.status")}</th>
            <th scope="col">{t("intake.did")}</th>
          </tr>
        </thead>
        <tbody>
          {intakes.map((one) => (
            <tr key={one.id}>
              <th scope="row">
                <Link to={`/intake/${one.id}`}>{nameOf(one)}</Link>
              </th>
              <td>
                {one.table ? <Link to={`/ledger?table=${one.table}`}>{one.tableName}</Link> : t("intake.newTable")}
              </td>
              <td>{one.person}</td>
              <td>{when(one.appliedAt ?? one.createdAt)}</td>
              <td>{t(`intake.is.${one.status as "open"}`)}</td>
              <td>
                {Object.entries(one.did)
                  .slice(0, 3)
                  .map(([kind, n]) => `${t(`group.${kind as "CONFLICTS"}`)} ${count(n)}`)
                  .join(" · ")}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
