import { Link } from "react-router";

export function NothingHere() {
  return (
    <main className="place">
      <header className="top">
        <h1>Nothing here</h1>
      </header>
      <div className="p-6">
        <p>There is nothing at this address. It may have been renamed or removed.</p>
        <Link className="btn mt-4" to="/">
          To the doors
        </Link>
      </div>
    </main>
  );
}
