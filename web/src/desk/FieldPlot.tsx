import type { Finding, DeskForm as Form } from "../api/client";
import { fieldsOf } from "../model/items";
import { UsualPlot } from "../usual/UsualPlot";

/** Where what is unusual in a field of the form lies. */
export function FieldPlot({ form, finding }: { form: Form; finding: Finding }) {
  const widget = fieldsOf(form).find(({ column }) => column === finding.field)?.widget;
  return <UsualPlot finding={finding} type={widget} way={form} />;
}
