/** Each key is a sign of its own, so that none is broken over two lines. */
export function KeyList({ pairs }: { pairs: [string, string][] }) {
  return (
    <dl className="grid grid-cols-[minmax(120px,max-content)_minmax(0,1fr)] gap-x-4 gap-y-1">
      {pairs.map(([keys, what]) => (
        <div key={keys} className="contents">
          <dt className="flex flex-wrap content-start gap-1">
            {keys.split(", ").map((key) => (
              <kbd key={key} className="h-fit whitespace-nowrap">
                {key}
              </kbd>
            ))}
          </dt>
          <dd>{what}</dd>
        </div>
      ))}
    </dl>
  );
}
