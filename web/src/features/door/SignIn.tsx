import { Alert, Button, Checkbox, FormControlLabel, TextField } from "@mui/material";
import { useState } from "react";
import { sentenceOf } from "../../api/client";
import { Logo } from "../../parts/Logo";
import { t } from "../../words/words";
import "../../parts/door.css";

/** The door. The address stays as it was, so that a shared link opens what it names after signing in. */
export function SignIn({ onSignIn }: { onSignIn: (signIn: string, password: string, stay: boolean) => Promise<void> }) {
  const [signIn, setSignIn] = useState("");
  const [password, setPassword] = useState("");
  const [stay, setStay] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  return (
    <main className="door">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          setBusy(true);
          setWrong(null);
          onSignIn(signIn, password, stay)
            .catch((failure: unknown) => setWrong(sentenceOf(failure)))
            .finally(() => setBusy(false));
        }}
      >
        <h1>
          <Logo /> {t("product")}
        </h1>
        <p>{t("signin.purpose")}</p>
        {wrong && <Alert severity="error">{wrong}</Alert>}
        <TextField
          label={t("signin.name")}
          value={signIn}
          onChange={(event) => setSignIn(event.target.value)}
          autoComplete="username"
          autoFocus
          required
          fullWidth
        />
        <TextField
          label={t("signin.password")}
          type="password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          autoComplete="current-password"
          required
          fullWidth
        />
        <FormControlLabel
          control={<Checkbox checked={stay} onChange={(event) => setStay(event.target.checked)} />}
          label={t("signin.stay")}
        />
        <Button type="submit" variant="contained" size="large" disabled={busy}>
          {t("signin.enter")}
        </Button>
      </form>
    </main>
  );
}
