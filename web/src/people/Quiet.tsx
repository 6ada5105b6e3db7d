import type { ReactNode } from "react";

/** A quiet page for one thing, before one is in. */
export function Quiet({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="lone">
      <main className="box">
        <p className="word" aria-hidden="true">
          weft
        </p>
        <h1>{title}</h1>
        {children}
      </main>
    </div>
  );
}
