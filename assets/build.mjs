// Builds the committed static files. `node build.mjs OUT` writes them; `node build.mjs --check`
// builds into a temporary folder and fails when the committed ones differ.
import { execFileSync } from "node:child_process";
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "esbuild";

const COMMITTED = "../src/euhydra/web/static";
const AXE = "../tests/browser/axe.min.js";
const FONTS = {
  "bricolage-grotesque": "bricolage-grotesque",
  "atkinson-hyperlegible-next": "atkinson-hyperlegible-next",
  "spline-sans-mono": "spline-sans-mono",
};
const FILES = [
  "app.css", "vendor/plot.js", "vendor/alpine.js",
  ...Object.keys(FONTS).flatMap((f) => [`fonts/${f}-latin.woff2`, `fonts/${f}-latin-ext.woff2`]),
];

async function make(out) {
  mkdirSync(join(out, "fonts"), { recursive: true });
  mkdirSync(join(out, "vendor"), { recursive: true });
  for (const [name, pack] of Object.entries(FONTS)) {
    for (const subset of ["latin", "latin-ext"]) {
      cpSync(`node_modules/@fontsource-variable/${pack}/files/${name}-${subset}-wght-normal.woff2`,
             join(out, `fonts/${name}-${subset}.woff2`));
    }
  }
  for (const name of ["plot", "alpine"]) {
    await build({ entryPoints: [`${name}.js`], bundle: true, minify: true, format: "esm",
                  target: "es2022", legalComments: "none", outfile: join(out, `vendor/${name}.js`) });
  }
  execFileSync("node_modules/.bin/tailwindcss",
               ["--input", "app.css", "--output", join(out, "app.css"), "--minify"],
               { stdio: ["ignore", "ignore", "pipe"] });
}

if (process.argv[2] === "--check") {
  const fresh = mkdtempSync(join(tmpdir(), "assets-"));
  await make(fresh);
  const stale = FILES.filter((f) => !readFileSync(join(fresh, f)).equals(
    readFileSync(join(COMMITTED, f))));
  if (!readFileSync("node_modules/axe-core/axe.min.js").equals(readFileSync(AXE))) stale.push(AXE);
  rmSync(fresh, { recursive: true });
  if (stale.length) {
    console.error(`Not what the sources build: ${stale.join(", ")}. Run "make css".`);
    process.exit(1);
  }
  console.log(`assets: ${FILES.length + 1} committed files are current`);
} else {
  await make(process.argv[2] ?? COMMITTED);
  cpSync("node_modules/axe-core/axe.min.js", AXE);
}
