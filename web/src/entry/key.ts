/** A key for something that is to be done once. Random enough to be nobody else's; randomUUID is there on secure pages only. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}
