import "@fontsource/ibm-plex-sans/latin-400.css";
import "@fontsource/ibm-plex-sans/latin-600.css";
import "@fontsource/ibm-plex-sans/greek-400.css";
import "@fontsource/ibm-plex-sans/greek-600.css";
import "./app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes, useParams } from "react-router-dom";
import { Refused } from "./api/client";
import { SignedIn } from "./app/SignedIn";
import { applyTheme, storedTheme } from "./app/theme";
import { JobsPage } from "./jobs/JobsPage";
import { later, type Later } from "./parts/later";

// The list of jobs comes at once; each stage when it is first gone to.
const DangerBar = later(() => import("./stages/inspect/DangerBar").then((part) => part.DangerBar));
const JobPage = later(() => Promise.all([import("./jobs/JobPage"), DangerBar.bring()]).then(([page]) => page.JobPage));
const SurveyPage = later(() => import("./stages/survey/SurveyPage").then((page) => page.SurveyPage));
const BoardPage = later(() => import("./stages/board/BoardPage").then((page) => page.BoardPage));
const CircuitPage = later(() => import("./stages/circuits/CircuitPage").then((page) => page.CircuitPage));
const SwitchingPage = later(() => import("./stages/switching/SwitchingPage").then((page) => page.SwitchingPage));
const MakeOffPage = later(() => import("./stages/switching/MakeOffPage").then((page) => page.MakeOffPage));
const TestsPage = later(() => import("./stages/tests/TestsPage").then((page) => page.TestsPage));
const PlanPage = later(() => import("./stages/plan/PlanPage").then((page) => page.PlanPage));
const RoutesPage = later(() => import("./stages/plan/RoutesPage").then((page) => page.RoutesPage));
const WorkPage = later(() => import("./stages/work/WorkPage").then((page) => page.WorkPage));
const QuotePage = later(() => import("./stages/plan/QuotePage").then((page) => page.QuotePage));
const PricesPage = later(() => import("./prices/PricesPage").then((page) => page.PricesPage));
const PracticePage = later(() => import("./practice/PracticePage").then((page) => page.PracticePage));
const ExercisePage = later(() => import("./practice/ExercisePage").then((page) => page.ExercisePage));
const DuePage = later(() => import("./due/DuePage").then((page) => page.DuePage));
const InspectionPage = later(() => import("./stages/inspect/InspectionPage").then((page) => page.InspectionPage));
const OfferPage = later(() => import("./offer/OfferPage").then((page) => page.OfferPage));
const VerifyPage = later(() => import("./verify/VerifyPage").then((page) => page.VerifyPage));
const DocumentsPage = later(() => import("./stages/handover/DocumentsPage").then((page) => page.DocumentsPage));
const PeoplePage = later(() => import("./people/PeoplePage").then((page) => page.PeoplePage));
const AccountPage = later(() => import("./people/AccountPage").then((page) => page.AccountPage));
const AuditPage = later(() => import("./people/AuditPage").then((page) => page.AuditPage));
const LinkPage = later(() => import("./people/LinkPage").then((page) => page.LinkPage));
const RulebookPage = later(() => import("./rulebook/RulebookPage").then((page) => page.RulebookPage));

/** The stages of a job by their addresses in it. */
const STAGES: readonly (readonly [string, Later<object>])[] = [
  ["survey", SurveyPage],
  ["plan/:room?/:face?", PlanPage],
  ["routes", RoutesPage],
  ["quote", QuotePage],
  ["work/:part?", WorkPage],
  ["board", BoardPage],
  ["circuits/:circuitId?", CircuitPage],
  ["switching/:circuitId?", SwitchingPage],
  ["make-off/:circuitId", MakeOffPage],
  ["tests/:circuitId?/:view?", TestsPage],
  ["inspection/:part?/:about?", InspectionPage],
  ["documents", DocumentsPage],
];

/** Whoever comes straight to a stage gets it while the server is asked who they are. */
function bringStage() {
  const [, first, , stage] = location.pathname.split("/");
  if (first !== "jobs") return;
  const pages = STAGES.filter(([path]) => path.split("/")[0] === stage).map(([, page]) => page);
  // What cannot be fetched now says so when it is shown.
  for (const each of [JobPage, ...pages]) each.bring().catch(() => undefined);
}

bringStage();
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
    <Routes>
      <Route path="/" element={<JobsPage />} />
      <Route path="/jobs/:jobId" element={<JobPage above={DangerBar} />}>
        <Route index element={<Navigate to="survey" replace />} />
        {STAGES.map(([path, Stage]) => (
          <Route key={path} path={path} element={<Stage />} />
        ))}
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
  );
}

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
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
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
