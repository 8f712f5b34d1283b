import { Alert, Snackbar } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import { bringAll, farWords, filesOf, type Dropped } from "./uploading";
import { makeAssetSet } from "./useAssetSet";
import type { Intake } from "./useIntake";
import "./intake.css";

/** Takes files that are dropped anywhere on a table's page: they wait on the Intake screen with that table chosen. */
export function DropOnTable({ table }: { table: Schemas["TableReply"] }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    const bring = async (files: Dropped[]) => {
      const came = await bringAll(files, (far) => setBusy(farWords(far)));
      for (const id of came.intakes) {
        const { options } = await ask<Intake>(`/api/intakes/${id}`);
        await ask<Intake>(`/api/intakes/${id}/options`, {
          method: "PUT",
          json: { ...options, table: table.slug, newTable: undefined },
        });
      }
      setBusy(null);
      await queries.invalidateQueries({ queryKey: ["intakes"] });
      if (came.drop !== null && came.assets > 0 && came.intakes.length === 0 && came.refused.length === 0)
        void navigate(`/intake/assets/${await makeAssetSet(came.drop, table.slug)}`);
      // Pictures among texts wait where the texts do, with what did not come in.
      else if (came.assets > 0) void navigate("/intake", { state: { came, table: table.slug } });
      else if (came.refused.length > 0) setWrong(came.refused.map((one) => one.why).join(" "));
      else void navigate(came.intakes.length === 1 ? `/intake/${came.intakes[0]}` : "/intake");
    };
    const carriesFiles = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
    const drag = (event: DragEvent) => {
      if (!carriesFiles(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const leave = (event: DragEvent) => event.relatedTarget === null && setOver(false);
    const drop = (event: DragEvent) => {
      setOver(false);
      if (!event.dataTransfer || !carriesFiles(event)) return;
      event.preventDefault();
      filesOf(event.dataTransfer)
        .then(bring)
        .catch((failure: unknown) => {
          setBusy(null);
          setWrong(sentenceOf(failure));
        });
    };
    document.addEventListener("dragover", drag);
    document.addEventListener("dragleave", leave);
    document.addEventListener("drop", drop);
    return () => {
      document.removeEventListener("dragover", drag);
      document.removeEventListener("dragleave", leave);
      document.removeEventListener("drop", drop);
    };
  }, [table.slug, navigate, queries]);
  return (
    <>
      {(over || busy) && (
        <div className="dropover" role="status">
          {busy ?? t("intake.dropOn", { table: table.name })}
        </div>
      )}
      <Snackbar open={wrong !== null} onClose={() => setWrong(null)}>
        <Alert severity="error" onClose={() => setWrong(null)}>
          {wrong}
        </Alert>
      </Snackbar>
    </>
  );
}
