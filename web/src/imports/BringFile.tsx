import { useMutation, useQueryClient } from "@tanstack/react-query";
import { FileUp } from "lucide-react";
import { useState } from "react";
import { FileTrigger, Button as PressButton } from "react-aria-components";
import { useNavigate } from "react-router";
import { queryKeyOf } from "../api/keys";
import { Trouble } from "../ui/Trouble";
import { useFileDrop } from "../ui/useFileDrop";
import { upload } from "./upload";

/** Takes a file by drop, by paste or from a list of files, and goes on to what it would become, or to what it brings into a table. */
export function BringFile({ into }: { into?: string }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [part, setPart] = useState(0);
  const bring = useMutation({
    mutationFn: (file: File) => upload(file, setPart),
    onSuccess: (report) => {
      queries.setQueryData(queryKeyOf("import", report.id), report);
      navigate(`/imports/${report.id}${into ? `?into=${into}` : ""}`);
    },
  });
  const { over, drop } = useFileDrop((file) => bring.mutate(file));
  return (
    <>
      <section aria-label="Drop a file here" className={`way ${over ? "over" : ""}`} {...drop}>
        <b>
          <FileUp size={18} className="text-soft" aria-hidden="true" /> Drop a file here
        </b>
        <span>CSV, spreadsheet or JSON. You see how each column is read before anything is kept.</span>
        <FileTrigger
          acceptedFileTypes={[".csv", ".tsv", ".txt", ".ods", ".json", ".jsonl"]}
          onSelect={(files) => files?.[0] && bring.mutate(files[0])}
        >
          <PressButton className="btn" isDisabled={bring.isPending}>
            Choose a file
          </PressButton>
        </FileTrigger>
      </section>
      {bring.isPending && (
        <p className="mt-3" role="status">
          <progress
            className="progress w-full"
            value={part < 1 ? part : undefined}
            max={1}
            aria-label="Upload"
          />
          {part < 1 ? `Sending: ${Math.round(part * 100)} %` : "Looking through every cell…"}
        </p>
      )}
      <Trouble error={bring.error} />
    </>
  );
}
