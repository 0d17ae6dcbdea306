import "@fontsource/atkinson-hyperlegible/400.css";
import "@fontsource/atkinson-hyperlegible/700.css";
import "@fontsource/atkinson-hyperlegible-mono/400.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { Route, Switch } from "wouter";
import { CaptionFileDialog } from "./start/CaptionFileDialog";
import { StartPage } from "./start/StartPage";
import "./style.css";
import { Notices } from "./ui/notice";
import { Tips } from "./ui/Tip";
import { startTheme } from "./ui/theme";

/** Most of the page: read while somebody looks at the projects, so that opening one waits for nothing. */
const workbench = () => import("./Workbench");
const Workbench = lazy(async () => ({ default: (await workbench()).Workbench }));
window.addEventListener("load", () => void workbench(), { once: true });

startTheme();
const client = new QueryClient({ defaultOptions: { queries: { retry: 1 } } });
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <Tips>
          <Suspense>
            <Switch>
              <Route path="/projects/:id">{({ id }) => <Workbench projectId={Number(id)} />}</Route>
              <Route>
                <StartPage />
              </Route>
            </Switch>
          </Suspense>
          <CaptionFileDialog />
          <Notices />
        </Tips>
      </QueryClientProvider>
    </StrictMode>,
  );
}
