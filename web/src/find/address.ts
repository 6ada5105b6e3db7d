/** Where a Desk opens with the records that match all of that, each `column:criterion`, and have that in any field. */
export function deskFinding(desk: string, where: string[], any = ""): string {
  const asked = where.map((each) => ["find", each]);
  if (any) asked.push(["any", any]);
  return `${desk}?${new URLSearchParams(asked)}`;
}

/** The criterion of just that text. */
export const just = (text: string): string => `"${text.replaceAll('"', '""')}"`;
