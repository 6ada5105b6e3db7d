// What the Desk loads before its first key, in kilobytes of gzip. The build fails where it is more than its budget.
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";

const BUDGET = 200;
const manifest = JSON.parse(readFileSync("dist/.vite/manifest.json", "utf8"));
const found = new Set();
const take = (name) => {
  const chunk = manifest[name];
  if (!chunk || found.has(chunk.file)) return;
  found.add(chunk.file);
  for (const each of chunk.imports ?? []) take(each);
};
take("index.html");
const sizes = [...found]
  .filter((file) => file.endsWith(".js"))
  .map((file) => [file, gzipSync(readFileSync(`dist/${file}`)).length / 1000]);
const sum = sizes.reduce((all, [, size]) => all + size, 0);
for (const [file, size] of sizes.sort((a, b) => b[1] - a[1])) console.log(`${size.toFixed(1).padStart(8)} kB  ${file}`);
console.log(`${sum.toFixed(1).padStart(8)} kB  scripts before the first key at the Desk; the budget is ${BUDGET} kB`);
if (sum > BUDGET) {
  console.error("The Desk's first scripts are over their budget. Load what is not needed for the first key later.");
  process.exit(1);
}
