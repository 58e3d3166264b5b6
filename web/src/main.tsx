import "@fontsource/ibm-plex-sans/latin-400.css";
import "@fontsource/ibm-plex-sans/latin-600.css";
import "@fontsource/ibm-plex-sans/greek-400.css";
import "@fontsource/ibm-plex-sans/greek-600.css";
import "./app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes, useParams } from "react-router-dom";
import { Refused } from "./api/client";
import { SignedIn } from "./app/SignedIn";
import { applyTheme, storedTheme } from "./app/theme";
import { JobsPage } from "./jobs/JobsPage";

// The list of jobs comes at once; each stage when it is first gone to.
const JobPage = lazy(() => import("./jobs/JobPage").then((page) => ({ default: page.JobPage })));
const SurveyPage = lazy(() => import("./stages/survey/SurveyPage").then((page) => ({ default: page.SurveyPage })));
const BoardPage = lazy(() => import("./stages/board/BoardPage").then((page) => ({ default: page.BoardPage })));
const CircuitPage = lazy(() => import("./stages/circuits/CircuitPage").then((page) => ({ default: page.CircuitPage })));
const SwitchingPage = lazy(() =>
  import("./stages/switching/SwitchingPage").then((page) => ({ default: page.SwitchingPage })),
);
const MakeOffPage = lazy(() =>
  import("./stages/switching/MakeOffPage").then((page) => ({ default: page.MakeOffPage })),
);
const TestsPage = lazy(() => import("./stages/tests/TestsPage").then((page) => ({ default: page.TestsPage })));
const PlanPage = lazy(() => import("./stages/plan/PlanPage").then((page) => ({ default: page.PlanPage })));
const RoutesPage = lazy(() => import("./stages/plan/RoutesPage").then((page) => ({ default: page.RoutesPage })));
const WorkPage = lazy(() => import("./stages/work/WorkPage").then((page) => ({ default: page.WorkPage })));
const QuotePage = lazy(() => import("./stages/plan/QuotePage").then((page) => ({ default: page.QuotePage })));
const PricesPage = lazy(() => import("./prices/PricesPage").then((page) => ({ default: page.PricesPage })));
const PracticePage = lazy(() => import("./practice/PracticePage").then((page) => ({ default: page.PracticePage })));
const ExercisePage = lazy(() => import("./practice/ExercisePage").then((page) => ({ default: page.ExercisePage })));
const DuePage = lazy(() => import("./due/DuePage").then((page) => ({ default: page.DuePage })));
const DangerBar = lazy(() => import("./stages/inspect/DangerBar").then((part) => ({ default: part.DangerBar })));
const InspectionPage = lazy(() =>
  import("./stages/inspect/InspectionPage").then((page) => ({ default: page.InspectionPage })),
);
const OfferPage = lazy(() => import("./offer/OfferPage").then((page) => ({ default: page.OfferPage })));
const VerifyPage = lazy(() => import("./verify/VerifyPage").then((page) => ({ default: page.VerifyPage })));
const DocumentsPage = lazy(() =>
  import("./stages/handover/DocumentsPage").then((page) => ({ default: page.DocumentsPage })),
);
const PeoplePage = lazy(() => import("./people/PeoplePage").then((page) => ({ default: page.PeoplePage })));
const AccountPage = lazy(() => import("./people/AccountPage").then((page) => ({ default: page.AccountPage })));
const AuditPage = lazy(() => import("./people/AuditPage").then((page) => ({ default: page.AuditPage })));
const LinkPage = lazy(() => import("./people/LinkPage").then((page) => ({ default: page.LinkPage })));
const RulebookPage = lazy(() => import("./rulebook/RulebookPage").then((page) => ({ default: page.RulebookPage })));

applyTheme(storedTheme());

// In the built application what was last seen stays at hand without a signal.
if (import.meta.env.PROD && "serviceWorker" in navigator) void navigator.serviceWorker.register("/sw.js");

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => count < 2 && !(error instanceof Refused && error.status >= 400),
      refetchOnWindowFocus: true,
      staleTime: 2_000,
    },
  },
});

/** A wrong address inside a job leads to where the job begins, not out of it. */
function AtTheSurvey() {
  const { jobId = "" } = useParams();
  return <Navigate to={`/jobs/${jobId}/survey`} replace />;
}

function Pages() {
  return (
    <Suspense fallback={<p className="p-6">Opening…</p>}>
      <Routes>
        <Route path="/" element={<JobsPage />} />
        <Route path="/jobs/:jobId" element={<JobPage above={DangerBar} />}>
          <Route index element={<Navigate to="survey" replace />} />
          <Route path="survey" element={<SurveyPage />} />
          <Route path="plan/:room?/:face?" element={<PlanPage />} />
          <Route path="routes" element={<RoutesPage />} />
          <Route path="quote" element={<QuotePage />} />
          <Route path="work/:part?" element={<WorkPage />} />
          <Route path="board" element={<BoardPage />} />
          <Route path="circuits/:circuitId?" element={<CircuitPage />} />
          <Route path="switching/:circuitId?" element={<SwitchingPage />} />
          <Route path="make-off/:circuitId" element={<MakeOffPage />} />
          <Route path="tests/:circuitId?/:view?" element={<TestsPage />} />
          <Route path="inspection/:part?/:about?" element={<InspectionPage />} />
          <Route path="documents" element={<DocumentsPage />} />
          <Route path="*" element={<AtTheSurvey />} />
        </Route>
        <Route path="/rulebooks/:rulebook" element={<RulebookPage />} />
        <Route path="/practice" element={<PracticePage />} />
        <Route path="/practice/runs/:runId" element={<ExercisePage />} />
        <Route path="/due" element={<DuePage />} />
        <Route path="/prices" element={<PricesPage />} />
        <Route path="/account" element={<AccountPage />} />
        <Route path="/people" element={<PeoplePage />} />
        <Route path="/audit" element={<AuditPage />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Suspense fallback={<p className="p-6">Opening…</p>}>
            <Routes>
              <Route path="/link/:token" element={<LinkPage />} />
              <Route path="/verify/:code?" element={<VerifyPage />} />
              <Route path="/offer/:token" element={<OfferPage />} />
              <Route
                path="*"
                element={
                  <SignedIn>
                    <Pages />
                  </SignedIn>
                }
              />
            </Routes>
          </Suspense>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
