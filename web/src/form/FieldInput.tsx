import { lazy, Suspense } from "react";
import type { Choice } from "../api/client";
import { AreaInput } from "./AreaInput";
import { ChoiceInput } from "./ChoiceInput";
import { DateInput } from "./DateInput";
import type { InputProps } from "./input";
import { LineInput } from "./LineInput";
import { ListInput } from "./ListInput";
import { help } from "./typing";
import { YesNoInput } from "./YesNoInput";

interface Props extends InputProps {
  /** Whether it takes one line of keys, whatever the field is. */
  plain?: boolean;
  /** Where it is chosen from a list of a table: those that begin so. */
  list?: (column: string, typed: string) => Promise<Choice[]>;
}

const PictureInput = lazy(() => import("./PictureInput").then((m) => ({ default: m.PictureInput })));

/** The same, with what the builder chose to help with while one types. */
function helped(props: InputProps): InputProps {
  const { id, field, text, type } = props;
  if (!field.shape && !field.capitals && !field.goesOnAfter) return props;
  return { ...props, type: (typed) => help(id, field, text, typed, type) };
}

/** What takes a field's keys, by the field's widget. */
export function FieldInput({ plain, list, ...given }: Props) {
  const { widget } = given.field;
  const props = plain ? given : helped(given);
  if (plain || (props.aria.readOnly && widget !== "area" && widget !== "picture"))
    return <LineInput {...props} />;
  if (list) return <ListInput {...props} list={list} />;
  switch (widget) {
    case "area":
      return <AreaInput {...props} />;
    case "choice":
      return <ChoiceInput {...props} />;
    case "date":
      return <DateInput {...props} />;
    case "picture":
      return (
        <Suspense fallback={null}>
          <PictureInput {...props} />
        </Suspense>
      );
    case "yesno":
      return <YesNoInput {...props} />;
    default:
      return <LineInput {...props} />;
  }
}
