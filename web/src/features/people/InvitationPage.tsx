import { Alert, Button, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import "../../parts/door.css";

/** Where an invitation leads: choose a password, and be in. */
export function InvitationPage() {
  const { token = "" } = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [password, setPassword] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const invited = useQuery({
    queryKey: ["invitation", token],
    queryFn: ({ signal }) => ask<Schemas["Invited"]>(`/api/invitations/${encodeURIComponent(token)}`, { signal }),
    retry: false,
  });
  const accept = () => {
    ask(`/api/invitations/${encodeURIComponent(token)}`, { method: "POST", json: { password } })
      .then(async () => {
        await navigate("/board", { replace: true });
        await queries.resetQueries();
      })
      .catch((failure: unknown) => setWrong(sentenceOf(failure)));
  };
  return (
    <main className="door">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          accept();
        }}
      >
        <h1>{t("product")}</h1>
        {invited.isError && <Alert severity="error">{sentenceOf(invited.error)}</Alert>}
        {invited.data && (
          <>
            <p>{t("invitation.welcome", { name: invited.data.name, signIn: invited.data.signIn })}</p>
            <TextField
              label={t("invitation.password")}
              type="password"
              autoComplete="new-password"
              autoFocus
              value={password}
              onChange={(event) => setPassword(event.target.value)}
              helperText={t("invitation.hint")}
            />
            {wrong && <Alert severity="error">{wrong}</Alert>}
            <Button type="submit" variant="contained" disabled={password === ""}>
              {t("invitation.enter")}
            </Button>
          </>
        )}
      </form>
    </main>
  );
}
