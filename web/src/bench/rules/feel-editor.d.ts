declare module "@bpmn-io/feel-editor" {
  interface Variable {
    name: string;
    detail?: string;
  }
  interface Options {
    container: HTMLElement;
    value: string;
    onChange: (value: string) => void;
    onKeyDown?: (event: KeyboardEvent) => void;
    variables: Variable[];
    contentAttributes?: Record<string, string>;
    extensions?: import("@codemirror/state").Extension[];
  }
  export default class FeelEditor {
    constructor(options: Options);
    setValue(value: string): void;
    getSelection(): unknown;
    focus(position?: number): void;
  }
}
