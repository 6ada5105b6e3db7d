let typed = "";

/** What was typed on while a field was being made goes over to the line that comes next, so that no key is lost. */
export const typedOn = {
  leave(text: string) {
    typed = text;
  },
  take(): string {
    const left = typed;
    typed = "";
    return left;
  },
};

/** The cursor stands at the end again, where all of it was chosen to be typed over: one goes on with what was not taken. */
export function toEnd(box: HTMLInputElement | HTMLTextAreaElement | null) {
  if (box && box.selectionStart === 0) box.setSelectionRange(box.value.length, box.value.length);
}
