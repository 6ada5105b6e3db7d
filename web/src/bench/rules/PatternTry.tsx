import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answered, api } from "../../api/client";
import { queryKeyOf } from "../../api/keys";
import { Writing } from "../settings";

/** A text that a pattern is tried with: the server says whether it would pass, by the very patterns that checks are made of. */
export function PatternTry({ form, pattern }: { form: string; pattern: string }) {
  const [text, setText] = useState("");
  const came = useQuery({
    queryKey: queryKeyOf("pattern", pattern, text),
    queryFn: () =>
      answered(
        api.POST("/api/forms/{form}/bench/pattern", { params: { path: { form } }, body: { pattern, text } }),
      ),
    enabled: text !== "" && pattern !== "",
    placeholderData: (before) => before,
  }).data;
  return (
    <>
      <Writing name="Try it with" value={text} none="something typed" set={setText} />
      {came && text && pattern && (
        <p className="say" role="status">
          {came.fault ?? (came.matches ? "That would pass." : "That would be stopped.")}
        </p>
      )}
    </>
  );
}
