import ts from "typescript";
import { expect, it } from "vitest";

const FILES = import.meta.glob(["./**/*.{ts,tsx}", "!./**/*.test.ts", "!./testing/**", "!./**/*.d.ts"], {
  query: "?raw",
  import: "default",
  eager: true,
}) as Record<string, string>;

/** Attributes whose texts are read or heard. */
const READ = new Set(["aria-label", "alt", "title", "placeholder", "name", "label", "none", "unit"]);

/** Every text of the pages that a person reads, with the files it stands in. */
function words(): Map<string, string[]> {
  const found = new Map<string, string[]>();
  const add = (file: string, text: string) => {
    const plain = text.replace(/\s+/g, " ").trim();
    if (/[a-z]{2}/i.test(plain) && /[ A-Z…]/.test(plain))
      found.set(plain, [...(found.get(plain) ?? []), file]);
  };
  for (const [file, source] of Object.entries(FILES)) {
    const visit = (node: ts.Node, attribute: boolean): void => {
      if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return;
      if (ts.isJsxText(node)) add(file, node.text);
      else if (ts.isStringLiteralLike(node) && (attribute || / /.test(node.text))) add(file, node.text);
      else if (ts.isTemplateExpression(node))
        add(file, [node.head.text, ...node.templateSpans.map(({ literal }) => `…${literal.text}`)].join(""));
      if (ts.isJsxAttribute(node)) {
        const name = ts.isIdentifier(node.name) ? node.name.text : "";
        // What a rule of style or an address says nobody reads.
        if (/^(className|to|href|d|key|id|data-)/.test(name)) return;
        node.initializer && visit(node.initializer, READ.has(name));
        return;
      }
      node.forEachChild((child) => visit(child, false));
    };
    visit(ts.createSourceFile(file, source, ts.ScriptTarget.Latest), false);
  }
  return found;
}

/** What other words say for everybody, with what to say instead. */
const INSTEAD: [RegExp, string][] = [
  [/\bgive(n)? up\b/i, "Cancel"],
  [/\bleave it\b(?! for)/i, "Cancel"],
  [/\bnot yet\b/i, "Cancel, or what is so"],
  [/\btake (it |them )?away\b|\btaken away\b/i, "Delete, Remove"],
  [/\bput(s)? over\b/i, "replace"],
  [/\bmust\b/i, "required, needs, has to"],
  [/\b(madder|weld|woad)\b/, "red, yellow, green"],
  [/\bone (can|may|is|has|does|comes|goes|types|wants|needs)\b/i, "you"],
  [/\bone['’]s\b/i, "your"],
];

it("says what every program says in the words of every program", () => {
  const all = [...words()].sort(([one], [other]) => one.localeCompare(other));
  // `WORDS=1 npx vitest run words` prints all of them, from A to Z, to be read through.
  if (process.env.WORDS) for (const [text] of all) console.log(text);
  expect(all.length).toBeGreaterThan(800);
  const wrong = all.flatMap(([text, files]) =>
    INSTEAD.filter(([word]) => word.test(text)).map(
      ([, instead]) => `“${text}” in ${files[0]}: say ${instead}`,
    ),
  );
  expect(wrong).toEqual([]);
}, 60_000);
