const PLACE = "weft.person";

/** Who is at this keyboard, as they said themselves; empty when they did not. */
export const person = () => localStorage.getItem(PLACE) ?? "";

export function choosePerson(name: string) {
  localStorage.setItem(PLACE, name.trim());
}

/** One or two letters that stand for a name. */
export function initials(name: string): string {
  const words = name.split(/\s+/).filter(Boolean);
  return [words[0], words.length > 1 ? words.at(-1) : undefined]
    .map((word) => word?.[0]?.toUpperCase() ?? "")
    .join("");
}
