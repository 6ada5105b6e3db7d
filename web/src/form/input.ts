import type { FormField } from "../api/client";

/** What every kind of input is given. */
export interface InputProps {
  id: string;
  /** What stands in it, as typed. */
  text: string;
  type: (text: string) => void;
  /** The typed value as it was read, if it could be. */
  value: unknown;
  field: FormField;
  choices: string[];
  aria: {
    "aria-describedby": string | undefined;
    "aria-invalid": true | undefined;
    "aria-required": true | undefined;
    readOnly: true | undefined;
    tabIndex: number | undefined;
    placeholder: string | undefined;
    /** Where no label stands beside it. */
    "aria-label"?: string;
  };
}

/** Nothing of the browser's own may come between the keys and the field. */
export const plainKeys = {
  autoComplete: "off",
  autoCorrect: "off",
  autoCapitalize: "off",
  spellCheck: false,
} as const;
