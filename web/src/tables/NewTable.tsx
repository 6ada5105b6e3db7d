import { Begin } from "./Begin";

/** A table from headings, from pasted rows or from a file; its form is made at once. */
export function NewTable() {
  return (
    <main className="place">
      <header className="top">
        <h1>Make a table</h1>
      </header>
      <Begin />
    </main>
  );
}
