import { useQuery } from "@tanstack/react-query";
import { tableQuery, tablesQuery } from "../api/queries";

/** The choice of one of the tables. */
export function TableSelect({
  name,
  value,
  set,
}: {
  name: string;
  value: string;
  set: (table: string) => void;
}) {
  const tables = useQuery(tablesQuery).data ?? [];
  return (
    <select className="entry small" aria-label={name} value={value} onChange={(e) => set(e.target.value)}>
      <option value="">choose a table</option>
      {tables.map((table) => (
        <option key={table.name} value={table.name}>
          {table.title}
        </option>
      ))}
    </select>
  );
}

/** The columns of a table by name, once they are known. */
export function useColumns(table: string) {
  return useQuery({ ...tableQuery(table), enabled: table !== "" }).data?.columns ?? [];
}
