/** Where a whole number stands that has so many digits that a page's numbers may not hold it. */
const LARGE = /[[:,]\s*-?\d{16,}\s*[,\]}]/;

/** Texts, which are passed over, and whole numbers of many digits. */
const TEXT_OR_LARGE = /"(?:[^"\\]|\\.)*"|-?\d{16,}(?![\d.eE])/g;

/** JSON in which whole numbers that a page's numbers cannot hold are texts of their digits. */
export function exact(json: string): string {
  if (!LARGE.test(json)) return json;
  return json.replace(TEXT_OR_LARGE, (found) =>
    found.startsWith('"') || Number.isSafeInteger(Number(found)) ? found : `"${found}"`,
  );
}
