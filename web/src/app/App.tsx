import { Alert, Button } from "@mui/material";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { sentenceOf } from "../api/client";
import { BoardPage } from "../features/board/BoardPage";
import { PersonPage } from "../features/contributions/PersonPage";
import { ReportPage } from "../features/contributions/ReportPage";
import { IntakeListPage } from "../features/intake/IntakeListPage";
import { IntakePage } from "../features/intake/IntakePage";
import { LedgerPage } from "../features/ledger/LedgerPage";
import { OffersPage } from "../features/offers/OffersPage";
import { InvitationPage } from "../features/people/InvitationPage";
import { PeoplePage } from "../features/people/PeoplePage";
import { ReviewPage } from "../features/review/ReviewPage";
import { SignIn } from "../features/session/SignIn";
import { useSession } from "../features/session/useSession";
import { ProductsPage } from "../features/settings/ProductsPage";
import { TablePage } from "../features/settings/TablePage";
import { WordbookPage } from "../features/wordbook/WordbookPage";
import { t } from "../words/words";

/** Every screen by its address; the door first. */
export function App() {
  const { pathname } = useLocation();
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
  if (pathname.startsWith("/invitation/")) {
    return (
      <Routes>
        <Route path="/invitation/:token" element={<InvitationPage />} />
      </Routes>
    );
  }
  if (person === null) return <SignIn onSignIn={signIn} />;
  return (
    <Routes>
      <Route path="/board" element={<BoardPage me={person} />} />
      <Route path="/review" element={<ReviewPage me={person} />} />
      <Route path="/wordbook" element={<WordbookPage me={person} />} />
      <Route path="/offers" element={<OffersPage me={person} />} />
      <Route path="/people/:id" element={<PersonPage me={person} />} />
      <Route path="/reports/:language" element={<ReportPage me={person} />} />
      <Route path="/people" element={<PeoplePage me={person} />} />
      <Route path="/products" element={<ProductsPage me={person} />} />
      <Route path="/tables/:slug" element={<TablePage me={person} />} />
      <Route path="/ledger" element={<LedgerPage me={person} />} />
      <Route path="/intake" element={<IntakeListPage me={person} />} />
      <Route path="/intake/:id" element={<IntakePage me={person} />} />
      <Route path="*" element={<Navigate to="/board" replace />} />
    </Routes>
  );
}
