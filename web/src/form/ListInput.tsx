import { useRef, useState } from "react";
import type { Choice } from "../api/client";
import { Combo } from "./ChoiceInput";
import type { InputProps } from "./input";

interface Props extends InputProps {
  list: (column: string, typed: string) => Promise<Choice[]>;
}

/** One of a list that comes from a table, found by code or name while one types. */
export function ListInput({ list, ...props }: Props) {
  const [items, setItems] = useState<Choice[]>([]);
  const latest = useRef(0);
  const asked = (typed: string) => {
    const turn = ++latest.current;
    list(props.field.column, typed)
      .then((found) => turn === latest.current && setItems(found))
      // Without an answer there is no list; what is typed counts all the same.
      .catch(() => {});
  };
  return <Combo {...props} items={items} filter={() => true} asked={asked} />;
}
