import "@fontsource/ibm-plex-sans/latin-400.css";
import "@fontsource/ibm-plex-sans/latin-600.css";
import "@fontsource/ibm-plex-sans/latin-700.css";
import "@fontsource/ibm-plex-sans/greek-400.css";
import "@fontsource/ibm-plex-sans/greek-600.css";
import "@fontsource/ibm-plex-sans/greek-700.css";
import "./app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router-dom";
import { Refused } from "./api/client";
import { SignedIn } from "./app/SignedIn";
import { applyTheme, storedTheme } from "./app/theme";
import { CircuitPage } from "./pages/CircuitPage";
import { DocumentsPage } from "./pages/DocumentsPage";
import { JobPage } from "./pages/JobPage";
import { JobsPage } from "./pages/JobsPage";
import { RulebookPage } from "./pages/RulebookPage";
import { SurveyPage } from "./pages/SurveyPage";
import { TestsPage } from "./pages/TestsPage";

applyTheme(storedTheme());

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => count < 2 && !(error instanceof Refused && error.status >= 400),
      refetchOnWindowFocus: true,
      staleTime: 2_000,
    },
  },
});

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <SignedIn>
            <Routes>
              <Route path="/" element={<JobsPage />} />
              <Route path="/jobs/:jobId" element={<JobPage />}>
                <Route index element={<Navigate to="survey" replace />} />
                <Route path="survey" element={<SurveyPage />} />
                <Route path="circuits/:circuitId?" element={<CircuitPage />} />
                <Route path="tests/:circuitId?" element={<TestsPage />} />
                <Route path="documents" element={<DocumentsPage />} />
              </Route>
              <Route path="/rulebooks/:rulebook" element={<RulebookPage />} />
              <Route path="*" element={<Navigate to="/" replace />} />
            </Routes>
          </SignedIn>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
