import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { answered, api, type FormPractice, type RunSheet } from "../../api/client";
import { queryKeyOf } from "../../api/keys";
import type { BenchDoings } from "../useBench";
import { free, ruled, rulesOf } from "./edits";

/** The practice entries of a form, each with what came of it just now. */
export function usePractice(bench: BenchDoings) {
  const { form, state } = bench;
  return useQuery({
    queryKey: queryKeyOf("practice", form.id, state?.revision),
    enabled: rulesOf(form).practice.length > 0 && state !== undefined,
    queryFn: () =>
      answered(api.POST("/api/forms/{form}/bench/practice", { params: { path: { form: form.id } } })),
  }).data;
}

/** Drafts kept with the form, and whether each still comes out as expected. */
export function PracticeList({ bench }: { bench: BenchDoings }) {
  const runs = usePractice(bench) ?? [];
  const { practice } = rulesOf(bench.form);
  if (practice.length === 0) return null;
  const good = runs.filter((run) => run.asExpected).length;
  return (
    <section className="practice" aria-label="Practice entries">
      <h3>
        Practice entries: {good} of {practice.length} come out as expected
      </h3>
      {practice.map((each) => {
        const run = runs.find(({ id }) => id === each.id);
        return (
          <div key={each.id} className={run && !run.asExpected ? "off" : ""}>
            <span aria-hidden="true">{run ? (run.asExpected ? "✓" : "✕") : "…"}</span>
            <span>{each.name}</span>
            <small>{run && !run.asExpected ? run.words : expected(each, bench)}</small>
            <button
              type="button"
              aria-label={`Remove the practice entry ${each.name}`}
              onClick={() =>
                bench.edit(
                  ruled((rules) => ({ practice: rules.practice.filter(({ id }) => id !== each.id) })),
                )
              }
            >
              <X size={13} aria-hidden="true" />
            </button>
          </div>
        );
      })}
    </section>
  );
}

function expected({ outcome, code }: FormPractice, { told }: BenchDoings) {
  if (outcome === "saved") return "saved";
  const rule = told.find(({ key }) => key === `check ${code}` || key === `fill ${code}`);
  return rule ? rule.text : `${outcome === "stopped" ? "stopped" : "asked"} by ${code}`;
}

/** Keeps the draft with what came of it as a practice entry. */
export function keepPractice(bench: BenchDoings, name: string, sheet: RunSheet) {
  const { typed, answers } = bench.entry.snapshot();
  const stop = sheet.findings.find((finding) => finding.severity === "stop");
  const [one] = sheet.findings;
  const written = sheet.row === null ? undefined : sheet.writes.find((write) => write.what === "row");
  const filled = Object.entries(written?.values ?? {}).filter(
    ([column]) =>
      typed[column]?.trim() || !rulesOf(bench.form).numbers.some((each) => each.column === column),
  );
  bench.edit(
    ruled((rules) => ({
      practice: [
        ...rules.practice,
        {
          id: free(
            "practice",
            rules.practice.map((each) => each.id),
          ),
          name,
          typed: Object.fromEntries(Object.entries(typed).filter(([, text]) => text.trim())),
          answers,
          outcome: written ? "saved" : stop ? "stopped" : "asked",
          code: (stop ?? one)?.rule || (stop ?? one)?.code || "",
          values: Object.fromEntries(
            filled.flatMap(([column, value]) =>
              value === null || value === undefined ? [] : [[column, String(value)]],
            ),
          ),
        },
      ],
    })),
  );
}
