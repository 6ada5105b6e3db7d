import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import {
  answered,
  api,
  type Finding,
  type DeskForm as Form,
  type HistoryChange,
  Problem,
  type StoredRecord,
  type SeenTable as Table,
} from "../api/client";
import { queryKeyOf } from "../api/keys";
import { linesOf } from "../entry/sheet";
import { texts } from "../entry/texts";
import { Stored } from "../model/Stored";
import { useShown } from "../model/way";
import { when } from "../model/when";
import type { DeskDoings } from "../sitting/useDesk";
import { Cover } from "../ui/Cover";
import { Trouble } from "../ui/Trouble";

interface Props {
  form: Form;
  table: Table;
  record: StoredRecord;
  desk: DeskDoings;
  close: () => void;
}

const DID: Record<string, string> = {
  saved: "entered it",
  changed: "changed it",
  deleted: "removed it",
  settled: "settled it, keyed twice",
  restored: "put it back",
};

/** What was done, in words. */
const did = ({ action, madeOne }: HistoryChange) =>
  madeOne
    ? `made it one with ${madeOne.rows.length === 1 ? "row" : "rows"} ${madeOne.rows.join(" and ")}`
    : DID[action];

/** What became of a record: who changed what, when; and a way back to an earlier state. */
export function HistoryView({ form, table, record, desk, close }: Props) {
  const { say, entry } = desk.sitting;
  const history = useQuery({
    queryKey: queryKeyOf("history", form.door.id, record.id, record.version),
    queryFn: () =>
      answered(
        api.GET("/api/doors/{door}/records/{id}/history", {
          params: { path: { door: form.door.id, id: record.id } },
        }),
      ),
  });
  const lined = linesOf(form);
  const ofLines = useQuery({
    queryKey: queryKeyOf("history of lines", form.door.id, record.id, entry.snapshot().lines),
    queryFn: () =>
      answered(
        api.GET("/api/doors/{door}/records/{id}/lines/history", {
          params: { path: { door: form.door.id, id: record.id } },
        }),
      ),
    enabled: lined.length > 0,
  });
  /** What is in the way of a state that was to be put back. */
  const [inTheWay, setInTheWay] = useState<{ version: number; findings: Finding[] }>();
  const putBack = async (version: number, findings: Finding[] = []) => {
    try {
      const now = await answered(
        api.POST("/api/doors/{door}/records/{id}/restore", {
          params: {
            path: { door: form.door.id, id: record.id },
            header: { "If-Match": `"${record.version}"` },
          },
          body: {
            version,
            answers: Object.fromEntries(findings.map(({ rule, code }) => [rule || code, "yes"])),
          },
        }),
      );
      entry.show(now, texts(form, table, now));
      say(`Row ${now.row} is as it was in version ${version}`, "ok");
      close();
    } catch (e) {
      if (e instanceof Problem && e.findings.length > 0) {
        setInTheWay({ version, findings: e.findings });
        return;
      }
      say((e as Error).message, "stop");
      close();
    }
  };
  const makesOne = form.door.may.includes("remove") && form.door.may.includes("change");
  const takeApart = async (id: number) => {
    try {
      const now = await answered(
        api.POST("/api/doors/{door}/made-one/{id}/take-back", {
          params: { path: { door: form.door.id, id } },
        }),
      );
      entry.show(now, texts(form, table, now));
      say("They are records of their own again", "ok");
    } catch (e) {
      say((e as Error).message, "stop");
    }
    close();
  };
  return (
    <Cover name={`History of row ${record.row}`} close={close} wide>
      <div className="grid gap-3 p-5">
        <h2>History of row {record.row}</h2>
        <Trouble error={history.error} />
        <ol className="history">
          {history.data?.map((change) => (
            <li key={change.version}>
              <p>
                <b>{change.by}</b> {did(change)} <span className="text-soft">{when(change.at)}</span>
                {change.madeOne?.id != null && makesOne && (
                  <button
                    type="button"
                    className="btn small ml-3"
                    onClick={() => takeApart(change.madeOne?.id ?? 0)}
                  >
                    Take it back
                  </button>
                )}
                {change.after && change.version !== record.version && (
                  <button type="button" className="btn small ml-3" onClick={() => putBack(change.version)}>
                    Put this state back
                  </button>
                )}
              </p>
              <Difference columns={table.columns} change={change} />
              {inTheWay?.version === change.version && (
                <div role="alert">
                  {inTheWay.findings.map((finding) => (
                    <p
                      key={`${finding.field} ${finding.code} ${finding.rule}`}
                      className={`say ${finding.severity}`}
                    >
                      {finding.message}
                    </p>
                  ))}
                  {inTheWay.findings.every(({ severity }) => severity === "ask") && (
                    <button
                      type="button"
                      className="btn small"
                      onClick={() => putBack(change.version, inTheWay.findings)}
                    >
                      Put it back all the same
                    </button>
                  )}
                </div>
              )}
            </li>
          ))}
        </ol>
        {lined.length > 0 && (ofLines.data?.length ?? 0) > 0 && (
          <>
            <h3>Its lines</h3>
            <ol className="history">
              {ofLines.data?.map(({ lines, row, change }) => {
                const item = lined.find(({ id }) => id === lines);
                return (
                  <li key={`${lines} ${row} ${change.version} ${change.at}`}>
                    <p>
                      {item?.label}, row {row}: <b>{change.by}</b> {DID[change.action]}{" "}
                      <span className="text-soft">{when(change.at)}</span>
                    </p>
                    <Difference
                      columns={(item?.items ?? []).map(({ column, label, widget }) => ({
                        name: column,
                        title: label,
                        type: widget,
                      }))}
                      change={change}
                    />
                  </li>
                );
              })}
            </ol>
          </>
        )}
        <button type="button" className="btn go justify-self-start" onClick={close}>
          Back to the record <kbd>Esc</kbd>
        </button>
      </div>
    </Cover>
  );
}

/** What a change changed: from what, to what. */
interface DifferenceProps {
  columns: { name: string; title: string; type: string }[];
  change: HistoryChange;
}

function Difference({ columns, change }: DifferenceProps) {
  const shown = useShown();
  const text = (values: Record<string, unknown> | null, name: string, type: string | undefined) =>
    shown(values?.[name], type);
  const different = columns.filter(
    ({ name = "", type }) => text(change.before, name, type) !== text(change.after, name, type),
  );
  if (different.length === 0) return null;
  return (
    <dl>
      {different.map(({ name = "", title, type }) => (
        <div key={name}>
          <dt>{title}</dt>
          <dd>
            {change.before && (
              <del>
                {text(change.before, name, type) ? (
                  <Stored value={change.before[name]} type={type} />
                ) : (
                  "empty"
                )}
              </del>
            )}
            {change.after && (
              <ins>
                {text(change.after, name, type) ? <Stored value={change.after[name]} type={type} /> : "empty"}
              </ins>
            )}
          </dd>
        </div>
      ))}
    </dl>
  );
}
