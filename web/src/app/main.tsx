import { notifyManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Refused } from "../api/client";
import { askAhead } from "./ahead";
import { App } from "./app";
import "./theme.css";

// An answer is shown when it comes, not when the page next has time.
notifyManager.setScheduler(queueMicrotask);

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      refetchOnWindowFocus: false,
      // What the server refuses it refuses again; what did not arrive may arrive.
      retry: (failures, error) => !(error instanceof Refused) && failures < 3,
    },
  },
});

askAhead(queries);

const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <App />
    </QueryClientProvider>
  </StrictMode>,
);
