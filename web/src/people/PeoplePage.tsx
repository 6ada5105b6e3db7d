import { useState } from "react";
import { AuditList } from "./AuditList";
import { GroupsList } from "./GroupsList";
import { PersonsList } from "./PersonsList";
import { SessionsList } from "./SessionsList";

const VIEWS = {
  persons: ["Persons", PersonsList],
  groups: ["Groups", GroupsList],
  sessions: ["Signed in", SessionsList],
  audit: ["What was done", AuditList],
} as const;

/** Persons and groups, who is signed in, and what was done: for administrators. */
export function PeoplePage() {
  const [view, setView] = useState<keyof typeof VIEWS>("persons");
  const [, View] = VIEWS[view];
  return (
    <main className="place">
      <header className="top">
        <h1>People</h1>
        <nav className="flex items-center gap-1" aria-label="What of people">
          {Object.entries(VIEWS).map(([key, [title]]) => (
            <button
              key={key}
              type="button"
              className={`btn ${key === view ? "" : "quiet"}`}
              aria-current={key === view ? "page" : undefined}
              onClick={() => setView(key as keyof typeof VIEWS)}
            >
              {title}
            </button>
          ))}
        </nav>
      </header>
      <div className="overflow-auto p-5">
        <View />
      </div>
    </main>
  );
}
