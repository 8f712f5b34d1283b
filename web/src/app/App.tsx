import { Alert, Button } from "@mui/material";
import { Navigate, Route, Routes } from "react-router";
import { sentenceOf } from "../api/client";
import { IntakeListPage } from "../features/intake/IntakeListPage";
import { IntakePage } from "../features/intake/IntakePage";
import { LedgerPage } from "../features/ledger/LedgerPage";
import { SignIn } from "../features/session/SignIn";
import { useSession } from "../features/session/useSession";
import { t } from "../words/words";

/** Every screen by its address; the door first. */
export function App() {
  const { person, failure, retry, signIn } = useSession();
  if (failure) {
    return (
      <div className="empty">
        <Alert severity="error" action={<Button onClick={retry}>{t("retry")}</Button>}>
          {sentenceOf(failure)}
        </Alert>
      </div>
    );
  }
  if (person === undefined) return null;
  if (person === null) return <SignIn onSignIn={signIn} />;
  return (
    <Routes>
      <Route path="/ledger" element={<LedgerPage me={person} />} />
      <Route path="/intake" element={<IntakeListPage me={person} />} />
      <Route path="/intake/:id" element={<IntakePage me={person} />} />
      <Route path="*" element={<Navigate to="/ledger" replace />} />
    </Routes>
  );
}
