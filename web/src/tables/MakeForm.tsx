import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answered, api } from "../api/client";
import { queryKeyOf } from "../api/keys";

/** One press makes a form of the table and opens it at the Desk. */
export function MakeForm({ table, main }: { table: string; main: boolean }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const make = useMutation({
    mutationFn: () => answered(api.POST("/api/forms", { body: { table } })),
    onSuccess: (form) => {
      queries.invalidateQueries({ queryKey: queryKeyOf("forms") });
      navigate(`/d/${form.id}`);
    },
  });
  return (
    <button
      type="button"
      className={`btn ${main ? "go" : ""}`}
      disabled={make.isPending}
      onClick={() => make.mutate()}
    >
      {main ? "Make a form" : "Make another form"}
    </button>
  );
}
