/** A moment in the past, as one says it: today by its time, before by its date too. */
export function when(iso: string): string {
  const at = new Date(iso);
  const time = at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return at.toDateString() === new Date().toDateString()
    ? `today ${time}`
    : `${at.toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" })} ${time}`;
}
