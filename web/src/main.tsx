import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "./app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Bench } from "./bench/Bench";
import { NewForm } from "./bench/NewForm";
import { Desk } from "./desk/Desk";
import { ByLink } from "./doors/ByLink";
import { Doors } from "./doors/Doors";
import { DoorsOfForm } from "./doors/DoorsOfForm";
import { TryDoor } from "./doors/TryDoor";
import { FormsPage } from "./forms/FormsPage";
import { Frame } from "./frame/Frame";
import { NothingHere } from "./frame/NothingHere";
import { startTheme } from "./frame/theme";
import { ImportPage } from "./imports/ImportPage";
import { MessagesPage } from "./messages/MessagesPage";
import { AllDone } from "./people/AllDone";
import { Invitation } from "./people/Invitation";
import { PeoplePage } from "./people/PeoplePage";
import { NewTable } from "./tables/NewTable";
import { TablePage } from "./tables/TablePage";
import { TablesPage } from "./tables/TablesPage";

startTheme();

const router = createBrowserRouter([
  { path: "/invitation/:secret", element: <Invitation />, errorElement: <NothingHere /> },
  { path: "/l/:secret", element: <ByLink />, errorElement: <NothingHere /> },
  { path: "/done", element: <AllDone />, errorElement: <NothingHere /> },
  {
    element: <Frame />,
    errorElement: <NothingHere />,
    children: [
      { path: "/", element: <Doors /> },
      { path: "/d/:door", element: <Desk /> },
      { path: "/tables", element: <TablesPage /> },
      { path: "/tables/new", element: <NewTable /> },
      { path: "/tables/:table", element: <TablePage /> },
      { path: "/imports/:id", element: <ImportPage /> },
      { path: "/forms", element: <FormsPage /> },
      { path: "/forms/:form/doors", element: <DoorsOfForm /> },
      { path: "/forms/:form/doors/:door", element: <DoorsOfForm /> },
      { path: "/forms/:form/doors/:door/try", element: <TryDoor /> },
      { path: "/people", element: <PeoplePage /> },
      { path: "/messages", element: <MessagesPage /> },
      { path: "/bench/new", element: <NewForm /> },
      { path: "/bench/:form", element: <Bench /> },
      { path: "*", element: <NothingHere /> },
    ],
  },
]);

// A file dropped beside a field would take the page away, and what is typed with it.
for (const way of ["dragover", "drop"] as const) {
  window.addEventListener(way, (e) => {
    if (e.dataTransfer?.types.includes("Files")) e.preventDefault();
  });
}

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, staleTime: 2_000, refetchOnWindowFocus: false } },
});

createRoot(document.getElementById("app") as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
