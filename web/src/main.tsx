import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "./app.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { Desk } from "./desk/Desk";
import { Frame } from "./frame/Frame";
import { NothingHere } from "./frame/NothingHere";
import { startTheme } from "./frame/theme";

startTheme();

const router = createBrowserRouter([
  {
    path: "/invitation/:secret",
    lazy: async () => ({ Component: (await import("./people/Invitation")).Invitation }),
    errorElement: <NothingHere />,
  },
  {
    path: "/l/:secret",
    lazy: async () => ({ Component: (await import("./doors/ByLink")).ByLink }),
    errorElement: <NothingHere />,
  },
  {
    path: "/done",
    lazy: async () => ({ Component: (await import("./people/AllDone")).AllDone }),
    errorElement: <NothingHere />,
  },
  {
    element: <Frame />,
    errorElement: <NothingHere />,
    children: [
      { path: "/", lazy: async () => ({ Component: (await import("./doors/Doors")).Doors }) },
      { path: "/day", lazy: async () => ({ Component: (await import("./day/DayPage")).DayPage }) },
      { path: "/d/:door", element: <Desk /> },
      {
        path: "/d/:door/twice",
        lazy: async () => ({ Component: (await import("./twice/SecondDesk")).SecondDesk }),
      },
      {
        path: "/d/:door/work",
        lazy: async () => ({ Component: (await import("./work/WorkPage")).WorkPage }),
      },
      {
        path: "/d/:door/settle",
        lazy: async () => ({ Component: (await import("./twice/SettleDesk")).SettleDesk }),
      },
      {
        path: "/d/:door/sheet",
        lazy: async () => ({ Component: (await import("./print/EmptySheet")).EmptySheet }),
      },
      {
        path: "/tables",
        lazy: async () => ({ Component: (await import("./tables/TablesPage")).TablesPage }),
      },
      {
        path: "/tables/new",
        lazy: async () => ({ Component: (await import("./tables/NewTable")).NewTable }),
      },
      {
        path: "/tables/adopt",
        lazy: async () => ({ Component: (await import("./adopt/AdoptPage")).AdoptPage }),
      },
      {
        path: "/tables/adopt/:schema/:name",
        lazy: async () => ({ Component: (await import("./adopt/AdoptOne")).AdoptOne }),
      },
      {
        path: "/tables/:table/alike",
        lazy: async () => ({ Component: (await import("./alike/AlikePage")).AlikePage }),
      },
      {
        path: "/tables/:table/unusual",
        lazy: async () => ({ Component: (await import("./usual/UnusualPage")).UnusualPage }),
      },
      {
        path: "/tables/:table/bring",
        lazy: async () => ({ Component: (await import("./imports/BringPage")).BringPage }),
      },
      {
        path: "/tables/:table",
        lazy: async () => ({ Component: (await import("./tables/TablePage")).TablePage }),
      },
      {
        path: "/imports/:id",
        lazy: async () => ({ Component: (await import("./imports/ImportPage")).ImportPage }),
      },
      { path: "/forms", lazy: async () => ({ Component: (await import("./forms/FormsPage")).FormsPage }) },
      {
        path: "/forms/:form/doors",
        lazy: async () => ({ Component: (await import("./doors/DoorsOfForm")).DoorsOfForm }),
      },
      {
        path: "/forms/:form/doors/:door",
        lazy: async () => ({ Component: (await import("./doors/DoorsOfForm")).DoorsOfForm }),
      },
      {
        path: "/forms/:form/doors/:door/try",
        lazy: async () => ({ Component: (await import("./doors/TryDoor")).TryDoor }),
      },
      {
        path: "/people",
        lazy: async () => ({ Component: (await import("./people/PeoplePage")).PeoplePage }),
      },
      {
        path: "/messages",
        lazy: async () => ({ Component: (await import("./messages/MessagesPage")).MessagesPage }),
      },
      { path: "/bench/new", lazy: async () => ({ Component: (await import("./bench/NewForm")).NewForm }) },
      { path: "/bench/:form", lazy: async () => ({ Component: (await import("./bench/Bench")).Bench }) },
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
  defaultOptions: {
    queries: {
      // What is refused is refused again.
      retry: (times, e) => times < 1 && !(e instanceof Problem && e.status < 500),
      staleTime: 2_000,
      refetchOnWindowFocus: false,
    },
  },
});

createRoot(document.getElementById("app") as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
