/** What went wrong, in one sentence, where it matters. */
export function Trouble({ error }: { error: unknown }) {
  if (!error) return null;
  return (
    <p role="alert" className="rounded-md bg-madder-wash px-3 py-2 font-medium text-madder">
      {error instanceof Error ? error.message : String(error)}
    </p>
  );
}
