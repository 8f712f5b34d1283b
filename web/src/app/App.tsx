import { Alert, Button } from "@mui/material";
import { Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { sentenceOf } from "../api/client";
import { BoardPage } from "../features/board/BoardPage";
import { LedgerPage } from "../features/ledger/LedgerPage";
import { NoRights, SignIn } from "../features/door";
import { Bell } from "../features/bell";
import { FindBox } from "../features/find";
import { UnsavedTexts } from "../features/unsaved";
import { DeskProvider, type DeskParts } from "../desk/Frame";
import { PersonMenu } from "./PersonMenu";
import { Tabs } from "./Tabs";
import { seesAnything, useSession, type Person } from "../session/useSession";
import { t } from "../words/words";
import { LineDown } from "./LineDown";
import { Broken, page } from "../parts/later";
import { UnknownPage } from "./UnknownPage";
import { useOutbox } from "./useOutbox";

// The board and the ledger are there at once; what else there is comes when it is opened.
const ChecksPage = page(async () => (await import("../features/checks/ChecksPage")).ChecksPage);
const PersonPage = page(async () => (await import("../features/contributions/PersonPage")).PersonPage);
const ReportPage = page(async () => (await import("../features/contributions/ReportPage")).ReportPage);
const IntakeListPage = page(async () => (await import("../features/intake/IntakeListPage")).IntakeListPage);
const AssetSetPage = page(async () => (await import("../features/intake/AssetSetPage")).AssetSetPage);
const IntakePage = page(async () => (await import("../features/intake/IntakePage")).IntakePage);
const OffersPage = page(async () => (await import("../features/offers/OffersPage")).OffersPage);
const InvitationPage = page(async () => (await import("../features/people/InvitationPage")).InvitationPage);
const PeoplePage = page(async () => (await import("../features/people/PeoplePage")).PeoplePage);
const ReviewPage = page(async () => (await import("../features/review/ReviewPage")).ReviewPage);
const CodePage = page(async () => (await import("../features/code/CodePage")).CodePage);
const DeliveriesPage = page(async () => (await import("../features/deliveries/DeliveriesPage")).DeliveriesPage);
const AskedPage = page(async () => (await import("../features/deliveries/AskedPage")).AskedPage);
const DeliveryPage = page(async () => (await import("../features/deliveries/DeliveryPage")).DeliveryPage);
const ProductPage = page(async () => (await import("../features/deliveries/ProductPage")).ProductPage);
const ProductsPage = page(async () => (await import("../features/settings/ProductsPage")).ProductsPage);
const RehearsalPage = page(async () => (await import("../features/rehearsal/RehearsalPage")).RehearsalPage);
const ContactSheetPage = page(async () => (await import("../features/rehearsal/ContactSheetPage")).ContactSheetPage);
const MarkPage = page(async () => (await import("../features/rehearsal/MarkPage")).MarkPage);
const MemoryPage = page(async () => (await import("../features/memory/MemoryPage")).MemoryPage);
const TablePage = page(async () => (await import("../features/settings/TablePage")).TablePage);
const WordbookPage = page(async () => (await import("../features/wordbook/WordbookPage")).WordbookPage);

/** Every screen by its address; the door first. */
export function App() {
  const { pathname } = useLocation();
  const { person, failure, retry, signIn, signOut } = useSession();
  useOutbox(person?.id ?? 0);
  if (failure) {
    return (
      <div className="empty">
        <Alert severity="error" action={<Button onClick={retry}>{t("retry")}</Button>}>
          {sentenceOf(failure)}
        </Alert>
        <LineDown />
      </div>
    );
  }
  if (person === undefined) return null;
  if (pathname.startsWith("/invitation/")) {
    return (
      <Suspense fallback={null}>
        <Routes>
          <Route path="/invitation/:token" element={<InvitationPage />} />
        </Routes>
      </Suspense>
    );
  }
  if (person === null) {
    return (
      <>
        <SignIn onSignIn={signIn} />
        <LineDown />
      </>
    );
  }
  if (!seesAnything(person)) return <NoRights me={person} onLook={retry} onSignOut={() => void signOut()} />;
  return (
    <Broken key={roomOf(pathname)} at={pathname} words={t("page.broken")} onAgain={() => void retry()}>
      <LineDown />
      <DeskProvider value={deskOf(person)}>
        <Routes>
          <Route path="/board" element={<BoardPage me={person} />} />
          <Route path="/review" element={<ReviewPage me={person} />} />
          <Route path="/checks" element={<ChecksPage me={person} />} />
          <Route path="/wordbook" element={<WordbookPage me={person} />} />
          <Route path="/memory" element={<MemoryPage me={person} />} />
          <Route path="/offers" element={<OffersPage me={person} />} />
          <Route path="/people/:id" element={<PersonPage me={person} />} />
          <Route path="/reports/:language" element={<ReportPage />} />
          <Route path="/people" element={<PeoplePage me={person} />} />
          <Route path="/products" element={<ProductsPage me={person} />} />
          <Route path="/products/:slug" element={<ProductPage me={person} />} />
          <Route path="/products/:slug/code" element={<CodePage me={person} />} />
          <Route path="/rehearsal" element={<RehearsalPage me={person} />} />
          <Route path="/rehearsal/:slug" element={<RehearsalPage me={person} />} />
          <Route path="/rehearsal/:slug/sheet" element={<ContactSheetPage />} />
          <Route path="/rehearsal/:slug/:scene/places" element={<MarkPage />} />
          <Route path="/rehearsal/:slug/:scene" element={<RehearsalPage me={person} />} />
          <Route path="/deliveries" element={<DeliveriesPage />} />
          <Route path="/deliveries/:slug" element={<DeliveryPage me={person} />} />
          <Route path="/deliveries/:slug/asked" element={<AskedPage />} />
          <Route path="/tables/:slug" element={<TablePage me={person} />} />
          <Route path="/ledger" element={<LedgerPage me={person} />} />
          <Route path="/intake" element={<IntakeListPage />} />
          <Route path="/intake/assets/:id" element={<AssetSetPage me={person} />} />
          <Route path="/intake/:id" element={<IntakePage me={person} />} />
          <Route path="/" element={<Navigate to="/board" replace />} />
          <Route path="/index.html" element={<Navigate to="/board" replace />} />
          <Route path="/sign-in" element={<Navigate to="/board" replace />} />
          <Route path="*" element={<UnknownPage />} />
        </Routes>
      </DeskProvider>
    </Broken>
  );
}

/** The address of a page; the scenes of a product are one, between which one goes without its being made anew. */
function roomOf(pathname: string): string {
  return pathname.replace(/^(\/rehearsal\/[^/]+)\/\d+$/, "$1");
}

/** What stands on every desk of a person. */
function deskOf(me: Person): DeskParts {
  return {
    tools: (scope) => (
      <>
        <UnsavedTexts />
        <FindBox scope={scope} />
        <Bell />
        <PersonMenu me={me} />
      </>
    ),
    tabs: (scope) => <Tabs scope={scope} me={me} />,
  };
}
